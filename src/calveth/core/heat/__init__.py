"""Heat through the shell: films, slabs, and the whole shell with its edges."""
