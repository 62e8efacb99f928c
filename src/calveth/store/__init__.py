"""Files in and out: the project file, JSON, weather."""
