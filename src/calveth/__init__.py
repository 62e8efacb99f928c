"""Calveth: heat, damp and air of an insulated bee hive, worked out before it is built."""

__version__ = "0.2.0"
