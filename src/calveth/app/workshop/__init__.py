"""Build on the screen and on paper: drawings painted, the list, templates."""
