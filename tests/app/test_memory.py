"""Memory that is let go goes back: measured in a process of its own, with a heap of its own."""

from __future__ import annotations

import gc
import subprocess
import sys
import threading
import unittest
import weakref

from calveth.app.memory import Collector, give_back_memory
from tests.app.base import application

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


class Circle:
    """Something that only the collector takes down."""

    def __init__(self) -> None:
        self.me = self


class Garbage(unittest.TestCase):
    def test_a_worker_never_takes_down_what_is_of_the_window(self) -> None:
        app = application()
        taken_in: list[int] = []

        def make() -> None:
            weakref.finalize(Circle(), lambda: taken_in.append(threading.get_ident()))

        make()
        collector = Collector(app)
        try:
            # Enough new objects to make Python collect in this worker, were it left to it.
            worker = threading.Thread(target=lambda: [Circle() for _ in range(20_000)])
            worker.start()
            worker.join()
            self.assertEqual(taken_in, [])
            for _ in range(60):
                collector.collect()
            gc.collect(1)
            self.assertEqual(taken_in, [threading.get_ident()])
        finally:
            collector.stop()
            collector.deleteLater()
        self.assertTrue(gc.isenabled())


if __name__ == "__main__":
    unittest.main()
