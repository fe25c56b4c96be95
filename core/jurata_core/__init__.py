"""The rules of the job: match log, clock, adjudication, legality. No web, no database."""

from collections.abc import Iterator
from functools import cache
from hashlib import sha256
from pathlib import Path

ROOT = Path(__file__).parent
DERIVED_BY = (
    "adjudication", "audit", "chance", "divisions", "faults.py", "fields.py", "legality.py", "lessons.py", "match_log",
    "records.py", "review", "rulesets", "season", "techniques", "times.py", "vocabulary", "winnable",
)  # fmt: skip
"""The parts that a verdict, a review and the figures of a season depend on; a test holds it to what they import."""


def derived_by() -> Iterator[Path]:
    """The files of these parts, in an order that is always the same."""
    for part in DERIVED_BY:
        files = sorted((ROOT / part).rglob("*")) if (ROOT / part).is_dir() else [ROOT / part]
        yield from (path for path in files if path.suffix in (".py", ".json"))


@cache
def fingerprint() -> str:
    """A short text that is another one as soon as a verdict, a review or a season may be: it is kept with each."""
    found = sha256()
    for path in derived_by():
        found.update(path.read_bytes())
    return found.hexdigest()[:16]
