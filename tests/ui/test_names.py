"""No widget keeps something of its own under the name of one of Qt's methods: Qt calls it where it means its own, and ends so."""

from __future__ import annotations

import ast
import importlib
import inspect
import pkgutil
import textwrap
from collections.abc import Iterator

import pytest
from PySide6.QtCore import QObject
from PySide6.QtWidgets import QApplication

from hollow_keel import ui
from hollow_keel.ui.window.theme import DARK, LIGHT, apply_theme


def classes() -> Iterator[type]:
    """Every class of the interface that is one of Qt's."""
    for module in pkgutil.walk_packages(ui.__path__, f"{ui.__name__}."):
        for _, own in inspect.getmembers(importlib.import_module(module.name), inspect.isclass):
            if issubclass(own, QObject) and own.__module__ == module.name:
                yield own


def kept_by(own: type) -> set[str]:
    """The names that a class keeps things under, on itself."""
    tree = ast.parse(textwrap.dedent(inspect.getsource(own)))
    targets = [
        target
        for node in ast.walk(tree)
        if isinstance(node, ast.Assign | ast.AnnAssign | ast.AugAssign)
        for one in (node.targets if isinstance(node, ast.Assign) else [node.target])
        for target in (one.elts if isinstance(one, ast.Tuple) else [one])
    ]
    return {t.attr for t in targets if isinstance(t, ast.Attribute) and isinstance(t.value, ast.Name) and t.value.id == "self"}


def test_nothing_is_kept_under_the_name_of_a_method_of_qt() -> None:
    every = list(classes())
    assert len(every) > 40
    found = {}
    for own in every:
        qt = next(base for base in own.__mro__ if base.__module__.startswith("PySide6"))
        shadowed = {name for name in kept_by(own) if callable(getattr(qt, name, None))}
        if shadowed:
            found[f"{own.__module__}.{own.__qualname__}"] = sorted(shadowed)
    assert found == {}


def test_the_style_is_set_once(qapp: QApplication, monkeypatch: pytest.MonkeyPatch) -> None:
    """Set anew under a style sheet it now and then ended the program."""
    apply_theme(qapp, LIGHT)
    monkeypatch.setattr(QApplication, "setStyle", lambda *_: pytest.fail("the style is set anew"))
    for theme in (DARK, LIGHT):
        apply_theme(qapp, theme)
        assert qapp.palette().window().color().name() == theme.ground.lower()
