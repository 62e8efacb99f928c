"""The hive through a year of hours: the balance with its memory, weather, figures and bands."""
