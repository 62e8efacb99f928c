"""Shipped data: materials, frame sizes, the demo."""
