"""The hive as a network: zones, surfaces and ways of air as arrays, one column a lane."""
