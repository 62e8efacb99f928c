"""Colours, type, style sheet and icons."""
