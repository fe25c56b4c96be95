"""Presets are the JSON files in this folder; a coach's ruleset extends one of them."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import fields
from functools import cache
from pathlib import Path
from typing import Any

from ..faults import Fault, quoted
from ..fields import Wrong
from .model import POINT_KEYS, Ruleset

FOLDER = Path(__file__).parent
DEFAULT = "full-points"
_CHECKS = {field.name: field.metadata["check"] for field in fields(Ruleset) if "check" in field.metadata}
_DESCRIPTIVE = frozenset(("extends", "name", "version", "note"))


@cache
def preset_settings(preset: str) -> Mapping[str, Any]:
    """The raw settings of a preset, with what it extends filled in."""
    raw: dict[str, Any] = json.loads((FOLDER / f"{preset}.json").read_text("utf-8"))
    return _merged(preset_settings(raw["extends"]), raw) if "extends" in raw else raw


@cache
def preset_ids() -> tuple[str, ...]:
    return tuple(sorted(path.stem for path in FOLDER.glob("*.json")))


@cache
def preset(name: str) -> Ruleset:
    """A preset by its id. Raises KeyError for an unknown id."""
    if name not in preset_ids():
        raise KeyError(name)
    faults: list[Fault] = []
    ruleset = _checked(preset_settings(name), name, faults)
    if ruleset is None:
        raise ValueError(f"the preset {name} is broken: {'; '.join(map(str, faults))}")
    return ruleset


def _merged(base: Mapping[str, Any], changes: Mapping[str, Any]) -> dict[str, Any]:
    changes = {key: value for key, value in changes.items() if value is not None}
    merged = {**base, **{key: value for key, value in changes.items() if key not in _DESCRIPTIVE}}
    if isinstance(changes.get("points"), dict):
        merged["points"] = {**base["points"], **changes["points"]}
    return merged


def merged_settings(changes: Mapping[str, Any]) -> dict[str, Any]:
    """All settings of a ruleset that extends a preset, as they were written."""
    return _merged(preset_settings(changes["extends"]), changes)


def _checked(raw: Mapping[str, Any], path: str, faults: list[Fault], unknown: tuple[str, ...] = ()) -> Ruleset | None:
    before = len(faults)
    values: dict[str, Any] = {"unknown": unknown}
    for name, check in _CHECKS.items():
        try:
            values[name] = check(raw.get(name))
        except Wrong as wrong:
            faults += wrong.faults(f"{path}.{name}")
    return Ruleset(**values) if len(faults) == before else None


def read_ruleset(raw: Any, path: str, faults: list[Fault]) -> Ruleset | None:
    """A preset's id, or ``{"extends": ID, ...changes}``; faults are added under ``path``."""
    known = ", ".join(preset_ids())
    if raw is None:
        faults.append(Fault(path, f"is missing; use one of {known}", "missing"))
        return None
    if isinstance(raw, str):
        if raw in preset_ids():
            return preset(raw)
        faults.append(Fault(path, f"{quoted(raw)} is no preset; use one of {known}", "unknown"))
        return None
    if not isinstance(raw, dict):
        faults.append(Fault(path, "should be a preset's id, or an object that extends one", "wrong_type"))
        return None
    base = raw.get("extends")
    if not isinstance(base, str) or base not in preset_ids():
        problem = "is missing" if base is None else f"{quoted(base)} is no preset"
        faults.append(Fault(f"{path}.extends", f"{problem}; use one of {known}", "unknown"))
        return None
    unknown = [name for name in raw if name not in _CHECKS and name not in _DESCRIPTIVE]
    if isinstance(raw.get("points"), dict):
        unknown += [f"points.{name}" for name in raw["points"] if name not in POINT_KEYS]
    settings = _merged(preset_settings(base), raw)
    if raw.get("title") is None and any(settings[name] != value for name, value in preset_settings(base).items()):
        settings["title"] += ", changed"  # it is not the preset, and nobody has named it
    return _checked(settings, path, faults, tuple(unknown))
