"""The window: asks and shows, computes nothing itself."""
