"""Steady heat conduction through solids, solved on a grid that follows them."""
