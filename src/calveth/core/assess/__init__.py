"""A design at a place with its bees: the coupled state of heat, air and water."""
