"""Air through openings and joints: one pressure balance for the whole hive."""
