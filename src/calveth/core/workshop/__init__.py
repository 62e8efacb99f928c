"""Build: what the solids of a design become in a workshop."""
