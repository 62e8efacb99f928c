"""Dialogs: each a class of its own that tests can drive."""
