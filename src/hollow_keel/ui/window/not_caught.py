"""What nobody caught is told: a message of ours in its words, a fault with where it is written down."""

from __future__ import annotations

import sys
import threading
from collections.abc import Callable
from types import TracebackType

from ...core.errors import HollowKeelError

FAULT = "Something went wrong in Hollow Keel, and this was not done. Help › Log files says where it is written down."


def tell_what_is_not_caught(say: Callable[[str], None]) -> None:
    """Have `say` told, in the window's thread alone, after whoever was told before (the log)."""
    before = sys.excepthook

    def told(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        before(kind, error, trace)
        if threading.current_thread() is threading.main_thread() and not issubclass(kind, KeyboardInterrupt):
            say(str(error) if isinstance(error, HollowKeelError) else FAULT)

    sys.excepthook = told
