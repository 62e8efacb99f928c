"""Memory that is let go goes back: measured in a process of its own, with a heap of its own."""

from __future__ import annotations

import subprocess
import sys
import unittest

from calveth.app.memory import give_back_memory

# Large arrays come and go between small things that stay, as answers do between edits.
_WORK = """
import sys
import numpy as np
from calveth.app.memory import give_back_memory
from tests.monkey import resident_mb
if sys.argv[1] == "yes":
    assert give_back_memory()
before = resident_mb()
for _ in range(3):
    np.ones(3_000_000)  # the C library learns that such arrays come and go
kept, large = [], []
for _ in range(40):
    large.append(np.ones(500_000))
    kept.append(bytes(60_000))
del large
print(resident_mb() - before)
"""


@unittest.skipUnless(sys.platform.startswith("linux"), "the allocator of the GNU C library")
class Memory(unittest.TestCase):
    def test_large_arrays_go_back_to_the_system(self) -> None:
        self.assertTrue(give_back_memory())
        grown = {
            asked: float(
                subprocess.run(
                    [sys.executable, "-c", _WORK, asked], check=True, capture_output=True, text=True
                ).stdout
            )
            for asked in ("yes", "no")
        }
        self.assertLess(grown["yes"], 40.0)
        self.assertGreater(grown["no"], grown["yes"])


if __name__ == "__main__":
    unittest.main()
