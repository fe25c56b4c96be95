"""House rules: a coach's own ruleset as a file, ``jurata-ruleset/1``, strictly checked before it is kept."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..faults import Fault, FaultyInput, quoted
from ..fields import Wrong, named, text, whole
from .loader import preset_settings, read_ruleset
from .model import Ruleset

FORMAT = "jurata-ruleset/1"
_OWN = {"about": text, "note": text, "version": whole(1, 9_999)}


def read_house_rules(raw: Any) -> dict[str, Any]:
    """A ruleset file with every change checked; what is as in its preset is left out.

    ``{"format", "extends", "title", "version", "note", ...settings}``; the format may
    be left out. Raises FaultyInput with every fault: unlike in a match log, a setting
    that no rule reads is one.
    """
    if not isinstance(raw, dict):
        raise FaultyInput([Fault("ruleset", "should be an object with title and extends", "wrong_type")])
    faults: list[Fault] = []
    if raw.get("format", FORMAT) != FORMAT:
        faults.append(
            Fault("format", f'{quoted(raw["format"])} is not known; this version reads "{FORMAT}"', "unknown")
        )
    for name, check in {"title": named, **{name: check for name, check in _OWN.items() if name in raw}}.items():
        try:
            check(raw.get(name))
        except Wrong as wrong:
            faults.append(
                Fault(name, "is missing: give it a name" if raw.get(name) is None else wrong.message, wrong.code)
            )
    settings = {name: value for name, value in raw.items() if name not in ("format", "id", "title", "name", *_OWN)}
    found: list[Fault] = []
    ruleset = read_ruleset(settings, "", found)
    faults += [Fault(fault.path.removeprefix("."), fault.message, fault.code) for fault in found]
    if ruleset is not None:
        faults += [Fault(name, "is not a setting of a ruleset", "unknown") for name in ruleset.unknown]
    if faults:
        raise FaultyInput(faults)
    base = preset_settings(raw["extends"])
    own = {name: raw[name] for name in ("title", *_OWN) if name in raw and raw[name] != base.get(name)}
    return {"extends": raw["extends"], **own, **changes(settings)}


def changes(settings: Mapping[str, Any]) -> dict[str, Any]:
    """The settings that differ from the preset they extend."""
    base = preset_settings(settings["extends"])
    found = {}
    for name, value in settings.items():
        if name == "points" and isinstance(value, dict):
            value = {key: n for key, n in value.items() if n is not None and n != base["points"][key]}
            if value:
                found[name] = value
        elif name != "extends" and value is not None and value != base.get(name):
            found[name] = value
    return found


WITHOUT_ADVANTAGES = "There are no advantages under these rules, so "


def without_effect(ruleset: Ruleset) -> list[str]:
    """Settings that other settings leave without effect, a sentence each: the coach may have meant something else."""
    if ruleset.advantages:
        return []
    golden = ruleset.overtime is not None and ruleset.overtime.golden == "advantages"
    found = {
        "a penalty whose rung is an advantage costs nothing.": "advantage" in ruleset.ladder,
        "the tiebreak by advantages decides nothing and is skipped.": "advantages" in ruleset.tiebreak,
        "coming up first from a double guard pull gives nothing.": ruleset.double_pull_top == "advantage",
        "turning to turtle gives nothing.": ruleset.turtle_escape == "advantage",
        "overtime ends with the first points, not with an advantage.": golden,
    }
    return [WITHOUT_ADVANTAGES + said for said, there in found.items() if there]


def as_file(rules: Mapping[str, Any]) -> dict[str, Any]:
    """House rules as they are written to a file."""
    return {"format": FORMAT, **rules}


def titled(ruleset: Ruleset, raw: Any) -> str:
    """How a ruleset is called where a match shows it: house rules with their version."""
    versioned = isinstance(raw, dict) and "title" in raw and "version" in raw
    return f"{ruleset.title}, version {raw['version']}" if versioned else ruleset.title
