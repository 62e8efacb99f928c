"""What can be done, as values: menus, keys, help and tests read one list (`menus`)."""
