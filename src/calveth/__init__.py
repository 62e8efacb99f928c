"""Calveth: heat, damp and air of an insulated bee hive, worked out before it is built."""

import os

# Systems here are sparse and tables small: a second thread of the linear algebra only waits
# (a quarter of all CPU time), and takes the other core from the window. Before NumPy is loaded.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

__version__ = "0.2.0"
