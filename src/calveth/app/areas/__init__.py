"""The areas of the window, in the order of the work."""
