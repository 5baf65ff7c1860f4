"""What was worked out last and looked for since, so many of it: by what it was worked out from."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

K = TypeVar("K", bound=Hashable)
V = TypeVar("V")


class Newest(Generic[K, V]):
    """Keeps the `most` values that were looked for last."""

    def __init__(self, most: int) -> None:
        self._kept: OrderedDict[K, V] = OrderedDict()
        self._most = most

    def __len__(self) -> int:
        return len(self._kept)

    def value(self, key: K, make: Callable[[], V]) -> V:
        """What is kept under a key, or is made now. Raises what making it raises; then nothing is kept."""
        if key in self._kept:
            self._kept.move_to_end(key)
            return self._kept[key]
        made = self._kept[key] = make()
        if len(self._kept) > self._most:
            self._kept.popitem(last=False)
        return made
