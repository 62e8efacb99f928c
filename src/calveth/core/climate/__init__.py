"""The place: twelve months of weather, and the air at the hive."""
