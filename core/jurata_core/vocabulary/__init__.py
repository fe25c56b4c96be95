"""The trade's words for what the core knows by code, each once: for sentences, for labels, and for the browser.

``words.json`` holds them. A ``label`` stands by itself, as on a button; a ``phrase`` stands in a sentence. The lists of
grips, of causes, of the details of a position and of what comes off next from a place are common practice, no source.
The browser gets the file as it is; after a change run scripts/api-types.
"""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path
from typing import Any


@cache
def vocabulary() -> dict[str, Any]:
    """All of it."""
    found: dict[str, Any] = json.loads((Path(__file__).parent / "words.json").read_text("utf-8"))
    return found


def phrases(of: str) -> dict[str, str]:
    """What each position, claim or foul is called in a sentence."""
    return {code: words["phrase"] for code, words in vocabulary()[of].items()}
