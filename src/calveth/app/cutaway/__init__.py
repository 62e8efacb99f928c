"""The hive cut open, and its lenses."""
