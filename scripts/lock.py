"""Writes the lock files from what is asked for: exact versions of everything, with the hash of each file.

requirements.lock is what an installation needs, requirements-test.lock what tests and benches need besides.

.venv/bin/python scripts/lock.py            # keeps the versions that are locked, and adds what is new
.venv/bin/python scripts/lock.py --upgrade  # takes the newest versions that requirements.in allows

The hashes are of the files that pip takes on this platform; on another one, run it there.
"""

from __future__ import annotations

import json
import re
import subprocess
import sys
import tempfile
from collections.abc import Sequence
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
ASKED = (ROOT / "requirements.in", ROOT / "requirements-test.in")
LOCKS = (ROOT / "requirements.lock", ROOT / "requirements-test.lock")


def pinned() -> list[str]:
    """What is locked now."""
    locked = "".join(lock.read_text("utf-8") for lock in LOCKS if lock.exists())
    return re.findall(r"^[A-Za-z0-9._-]+==[^ \\\n]+", locked, re.M)


def resolved(asked: Sequence[Path], pins: Sequence[str]) -> list[dict[str, Any]]:
    """What pip would install, as its report says it."""
    pip = str(ROOT / ".tools" / "uv" / "bin" / "pip")
    command = [pip, "install", "--quiet", "--dry-run", "--ignore-installed", "--report", "-"]
    with tempfile.TemporaryDirectory() as folder:
        kept = Path(folder) / "kept.txt"
        kept.write_text("\n".join(pins), "utf-8")
        command += ["-c", str(kept), *(word for path in asked for word in ("-r", str(path)))]
        done = subprocess.run(command, check=True, stdout=subprocess.PIPE, text=True)
    found: list[dict[str, Any]] = json.loads(done.stdout)["install"]
    return found


def line(package: dict[str, Any]) -> str:
    meta = package["metadata"]
    extras = f"[{','.join(sorted(package['requested_extras']))}]" if package.get("requested_extras") else ""
    digest = package["download_info"]["archive_info"]["hashes"]["sha256"]
    return f"{meta['name']}{extras}=={meta['version']} --hash=sha256:{digest}"


def main() -> None:
    pins, known = [] if "--upgrade" in sys.argv else pinned(), set[str]()
    for number, lock in enumerate(LOCKS):
        lines = {line(package) for package in resolved(ASKED[: number + 1], pins)}
        lock.write_text("\n".join(sorted(lines - known, key=str.lower)) + "\n", "utf-8")
        known |= lines


if __name__ == "__main__":
    main()
