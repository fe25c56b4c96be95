"""The rules of the job: match log, clock, adjudication, legality. No web, no database."""

from functools import cache
from hashlib import sha256
from pathlib import Path


@cache
def fingerprint() -> str:
    """A short text that is another one as soon as anything of the core is: what was derived by it is kept with it."""
    found = sha256()
    for path in sorted(Path(__file__).parent.rglob("*")):
        if path.suffix in (".py", ".json"):
            found.update(path.read_bytes())
    return found.hexdigest()[:16]
