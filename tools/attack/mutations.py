"""Good files made bad: by bytes, by structure, by meaning."""

from __future__ import annotations

import json
import random
from collections.abc import Callable
from typing import Any

VALUES: tuple[str, ...] = (
    "",
    "0",
    "-0",
    "-1",
    "1e300",
    "-1e300",
    "1e-300",
    "nan",
    "inf",
    "-inf",
    "9" * 400,
    "1/0",
    "½",
    "٣",
    "1,5",
    "1.5.2",
    "0x10",
    "=1+1",
    "\x00",
    "\ufffd",
    "\u202e",
    "a" * 5000,
    "true",
    "null",
    "None",
    "[]",
    "{}",
    "2-3-4+",
    "5 ft",
    "-",
    "1e",
    "+",
    '"',
    "'",
)
"""What a cell, a group or a value is changed to."""
ODD: tuple[Any, ...] = (
    None,
    True,
    False,
    0,
    -1,
    1,
    1e300,
    -1e300,
    1e-300,
    10**400,
    "",
    "nan",
    "\ud800",
    [],
    {},
    [[]],
    [None],
    {"": None},
    "x" * 5000,
)
DEEP, DEEPEST = "nested deeply", 5000
Mutation = Callable[[bytes, random.Random], bytes]


def by_bytes(data: bytes, dice: random.Random) -> bytes:
    """A few bytes changed, put in, taken out, doubled, or the end cut off."""
    own = bytearray(data)
    for _ in range(dice.choice((1, 1, 2, 5, 20))):
        at, way = dice.randrange(len(own) + 1), dice.randrange(6)
        if way == 0 and at < len(own):
            own[at] = dice.randrange(256)
        elif way == 1:
            own[at:at] = bytes(dice.randrange(256) for _ in range(dice.choice((1, 4, 40))))
        elif way == 2:
            del own[at : at + dice.choice((1, 4, 100))]
        elif way == 3:
            own[at:at] = own[at : at + dice.choice((1, 10, 1000))]
        elif way == 4 and at < len(own):
            own[at] ^= 1 << dice.randrange(8)
        elif dice.random() < 0.2:
            del own[at:]
    return bytes(own)


def by_cells(data: bytes, dice: random.Random) -> bytes:
    """Cells of a table changed to other values, lines taken out, doubled and put elsewhere."""
    lines = [line.split(",") for line in data.decode("utf-8", "replace").splitlines()]
    for _ in range(dice.choice((1, 1, 3, 10))):
        if not lines:
            break
        row = dice.randrange(len(lines))
        way = dice.random()
        if way < 0.7:
            lines[row][dice.randrange(len(lines[row]))] = dice.choice(VALUES)
        elif way < 0.8:
            lines.insert(dice.randrange(len(lines) + 1), list(lines[row]))
        elif way < 0.9:
            del lines[row]
        else:
            lines[row] = lines[row][: dice.randrange(len(lines[row]) + 1)] or [""]
    return "\n".join(",".join(row) for row in lines).encode("utf-8", "surrogatepass")


def by_json(data: bytes, dice: random.Random) -> bytes:
    """Values somewhere in a document changed, taken out, put in, or nested deeply."""
    document = json.loads(data)
    for _ in range(dice.choice((1, 1, 3))):
        document = _changed(document, dice)
    return json.dumps(document).replace(f'"{DEEP}"', "[" * DEEPEST + "]" * DEEPEST).encode()


def _changed(value: Any, dice: random.Random) -> Any:
    if isinstance(value, dict) and value and dice.random() < 0.9:
        key = dice.choice(list(value))
        own = dict(value)
        way = dice.random()
        if way < 0.08:
            del own[key]
        elif way < 0.14:
            own[dice.choice(("", "x", key + "_"))] = own.pop(key)
        else:
            own[key] = _changed(own[key], dice)
        return own
    if isinstance(value, list) and value and dice.random() < 0.9:
        rows = list(value)
        at = dice.randrange(len(rows))
        way = dice.random()
        if way < 0.08:
            del rows[at]
        elif way < 0.14:
            rows.insert(at, rows[at])
        else:
            rows[at] = _changed(rows[at], dice)
        return rows
    return DEEP if dice.random() < 0.02 else dice.choice(ODD)


def by_groups(data: bytes, dice: random.Random) -> bytes:
    """Lines of a DXF (a code, a value, a code …) and of other texts changed, each for itself."""
    lines = data.decode("utf-8", "replace").split("\n")
    for _ in range(dice.choice((1, 1, 2, 6))):
        at = dice.randrange(len(lines))
        way = dice.random()
        if way < 0.6:
            lines[at] = dice.choice((*VALUES, lines[dice.randrange(len(lines))]))
        elif way < 0.8:
            del lines[at : at + dice.choice((1, 2))]
            lines = lines or [""]
        else:
            lines[at:at] = lines[at : at + dice.choice((1, 2, 20))]
    return "\n".join(lines).encode("utf-8", "surrogatepass")


def by_numbers(data: bytes, dice: random.Random) -> bytes:
    """Words of a text changed to other values."""
    words = data.decode("utf-8", "replace").split(" ")
    for _ in range(dice.choice((1, 2, 6))):
        words[dice.randrange(len(words))] = dice.choice(VALUES)
    return " ".join(words).encode("utf-8", "surrogatepass")
