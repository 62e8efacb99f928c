"""The installed command: Ctrl-C while the program is still being loaded ends in a sentence too."""

from __future__ import annotations

import sys

# 128 and the number of the signal, as shells have it; said again here, before anything is loaded.
_STOPPED = 130


def main() -> int:
    """Load the command line and run it."""
    try:
        from calveth.cli.main import main as run

        return run()
    except KeyboardInterrupt:
        print("\ncalveth: stopped", file=sys.stderr)
        return _STOPPED


if __name__ == "__main__":
    sys.exit(main())
