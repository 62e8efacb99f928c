"""A command that takes long says so on a terminal, and nothing of it stays beside the answer."""

import io
import time
import unittest
from unittest import mock

from calveth.cli.progress import part, progress, report


class Terminal(io.StringIO):
    """A stream that says it is a terminal."""

    def isatty(self) -> bool:
        return True


def shown(stream: Terminal, text: str) -> bool:
    """Wait until a text is on the terminal; what is never drawn ends by the processor's time."""
    end = time.process_time() + 20.0
    while text not in stream.getvalue():
        if time.process_time() > end:
            return False
        time.sleep(0.01)
    return True


class Bar(unittest.TestCase):
    def setUp(self) -> None:
        self.out, self.error = Terminal(), Terminal()
        for name, stream in (("stdout", self.out), ("stderr", self.error)):
            patch = mock.patch(f"sys.{name}", stream)
            patch.start()
            self.addCleanup(patch.stop)

    def test_it_tells_the_time_and_then_how_far(self) -> None:
        with progress("sizes", 0.0):
            self.assertTrue(shown(self.error, "calveth sizes: 00:00"))
            part(0.5, 1.0)(0.5)
            self.assertTrue(shown(self.error, " 75 % |"))
            print("the answer")
            drawn = self.error.getvalue()
            report(0.9)
            time.sleep(0.6)
            self.assertEqual(self.error.getvalue(), drawn, "drawn over the answer")
        # The last that is drawn wipes the line.
        self.assertEqual(drawn.rstrip("\r").rsplit("\r", 1)[-1].strip(), "")
        self.assertEqual(self.out.getvalue(), "the answer\n")

    def test_quick_work_shows_nothing(self) -> None:
        with progress("places", 60.0):
            print("the answer")
        self.assertEqual(self.error.getvalue(), "")

    def test_an_error_leaves_nothing_behind(self) -> None:
        with self.assertRaises(ValueError), progress("sizes", 0.0):
            self.assertTrue(shown(self.error, "calveth sizes:"))
            raise ValueError
        self.assertEqual(self.error.getvalue().rstrip("\r").rsplit("\r", 1)[-1].strip(), "")

    def test_no_terminal_no_bar(self) -> None:
        with mock.patch("sys.stderr", io.StringIO()) as stream:
            with progress("sizes", 0.0):
                report(0.5)
                time.sleep(0.1)
            self.assertEqual(stream.getvalue(), "")


if __name__ == "__main__":
    unittest.main()
