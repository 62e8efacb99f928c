"""Small widgets used in several areas."""
