"""The installed command: Ctrl-C while the program is still being loaded ends in a sentence too."""

from __future__ import annotations

import _thread
import sys
import threading

# 128 and the number of the signal, as shells have it; said again here, before anything is loaded.
_STOPPED = 130


def deliver_again(lost: sys.UnraisableHookArgs) -> None:
    """Deliver a Ctrl-C again that fell into a call back of a library, where it is swallowed."""
    if issubclass(lost.exc_type, KeyboardInterrupt):
        # A moment later, when the call back has returned; here it would be lost once more.
        later = threading.Timer(0.05, _thread.interrupt_main)
        later.daemon = True
        later.start()
    else:
        sys.__unraisablehook__(lost)


def main() -> int:
    """Load the command line and run it."""
    sys.unraisablehook = deliver_again
    try:
        from calveth.cli.main import main as run
        from calveth.store.shell_cache import keep_shells

        keep_shells()
        return run()
    except KeyboardInterrupt:
        print("\ncalveth: stopped", file=sys.stderr)
        return _STOPPED


if __name__ == "__main__":
    sys.exit(main())
