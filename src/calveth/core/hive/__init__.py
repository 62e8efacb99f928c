"""Forms, shells, openings, seasons and the solids made of them."""
