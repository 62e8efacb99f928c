"""Water inside the shell."""
