"""How large what is kept as JSON may be: a text, an observation, a ruleset. Bodies as a whole: see config.parsing."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

from rest_framework import serializers

from jurata_core.faults import Fault

LONGEST_TEXT = 2_000
"""Characters of a note, or of any other text in an observation."""
LARGEST_OBSERVATION = LARGEST_RULESET = 16 * 1024
"""Bytes as JSON, with whatever unknown fields it has."""


def size_faults(value: Any, most: int, path: str) -> Iterator[Fault]:
    """What is too large in a JSON value: the whole of it, or a text directly in it."""
    size = len(json.dumps(value, ensure_ascii=False, separators=(",", ":")).encode("utf-8", "surrogatepass"))
    if size > most:
        yield Fault(path, f"has {size // 1024} KB; {most // 1024} KB at most", "too_large")
    for name, one in value.items() if isinstance(value, dict) else ():
        if isinstance(one, str) and len(one) > LONGEST_TEXT:
            inner = f"{path}.{name}" if path else name
            yield Fault(inner, f"has {len(one)} characters; {LONGEST_TEXT} at most", "too_large")


class BoundedListField(serializers.ListField):
    """A list whose length is looked at before anything in it is."""

    def to_internal_value(self, data: Any) -> Any:
        if isinstance(data, list) and self.max_length is not None and len(data) > self.max_length:
            raise serializers.ValidationError(f"has {len(data)} entries; {self.max_length} at most")
        return super().to_internal_value(data)


class RulesetField(serializers.JSONField):
    """A preset's id, or an object that extends one; the core checks what is in it."""

    def to_internal_value(self, data: Any) -> Any:
        value = super().to_internal_value(data)
        for fault in size_faults(value, LARGEST_RULESET, ""):
            raise serializers.ValidationError(f"{fault.path} {fault.message}".strip())
        return value
