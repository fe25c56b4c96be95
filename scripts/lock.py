"""Writes requirements.lock from requirements.in: exact versions of everything, with the hash of each file.

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
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
LOCK = ROOT / "requirements.lock"


def resolved(upgrade: bool) -> list[dict[str, Any]]:
    """What pip would install, as its report says it."""
    command = [sys.executable, "-m", "pip", "install", "--quiet", "--dry-run", "--ignore-installed", "--report", "-"]
    with tempfile.TemporaryDirectory() as folder:
        kept = Path(folder) / "kept.txt"
        pinned = re.findall(r"^[A-Za-z0-9._-]+==[^ \\\n]+", LOCK.read_text("utf-8"), re.M)
        kept.write_text("" if upgrade else "\n".join(pinned), "utf-8")
        command += ["-c", str(kept), "-r", str(ROOT / "requirements.in")]
        done = subprocess.run(command, check=True, stdout=subprocess.PIPE, text=True)
    found: list[dict[str, Any]] = json.loads(done.stdout)["install"]
    return found


def line(package: dict[str, Any]) -> str:
    meta = package["metadata"]
    extras = f"[{','.join(sorted(package['requested_extras']))}]" if package.get("requested_extras") else ""
    digest = package["download_info"]["archive_info"]["hashes"]["sha256"]
    return f"{meta['name']}{extras}=={meta['version']} --hash=sha256:{digest}"


def main() -> None:
    packages = resolved("--upgrade" in sys.argv)
    LOCK.write_text("\n".join(sorted(map(line, packages), key=str.lower)) + "\n", "utf-8")


if __name__ == "__main__":
    main()
