"""Designs side by side."""
