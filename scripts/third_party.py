"""Writes THIRD-PARTY.md: what Jurata is built from, and under which licences.

.venv/bin/python scripts/third_party.py
"""

from __future__ import annotations

import json
import re
import shutil
from importlib.metadata import distribution
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
FONTS = ("source-sans-3", "vollkorn")
HEAD = """# Third-party software

Made by `scripts/third_party.py` from what is installed; run it again after a change of a `requirements*.lock` or
`web/package-lock.json`. Jurata itself is under the licence in `LICENSE`.

The fonts Source Sans 3 and Vollkorn are shipped with the front end under the SIL Open Font License 1.1; its text lies
beside them in `web/public/licences/` and in the build.

Debian's packages of PostgreSQL, nginx, ffmpeg and Chromium are installed by the set-up and not part of Jurata.
"""


def _locked() -> str:
    return "".join((ROOT / name).read_text("utf-8") for name in ("requirements.lock", "requirements-test.lock"))


def main() -> None:
    parts = [HEAD, "## Python\n", _table(_python()), "\n## JavaScript, in the front end that is served\n"]
    npm = _npm()
    parts += [_table(npm[False]), "\n## JavaScript, to build and test it\n", _table(npm[True])]
    (ROOT / "THIRD-PARTY.md").write_text("\n".join(parts), "utf-8")
    licences = ROOT / "web" / "public" / "licences"
    licences.mkdir(parents=True, exist_ok=True)
    for font in FONTS:
        shutil.copyfile(
            ROOT / "web" / "node_modules" / "@fontsource-variable" / font / "LICENSE", licences / f"{font}.txt"
        )


def _table(rows: list[tuple[str, str, str]]) -> str:
    lines = ["| package | version | licence |", "| --- | --- | --- |"]
    return "\n".join([*lines, *(f"| {' | '.join(row)} |" for row in sorted(rows, key=lambda row: row[0].lower()))])


def _python() -> list[tuple[str, str, str]]:
    pinned = re.findall(r"^([A-Za-z0-9._-]+)(?:\[[^]]*\])?==", _locked(), re.M)
    return [_distribution(name) for name in pinned]


def _distribution(name: str) -> tuple[str, str, str]:
    found = distribution(name)
    meta = found.metadata.json
    said = str(meta.get("license_expression") or meta.get("license") or "")
    if not said or "\n" in said or len(said) > 60:
        classified = [one for one in found.metadata.get_all("Classifier") or [] if one.startswith("License ::")]
        said = ", ".join(one.rsplit(" :: ", 1)[-1] for one in classified) or "see its package"
    return found.metadata["Name"], found.version, said


def _npm() -> dict[bool, list[tuple[str, str, str]]]:
    """Packages by whether they are only for development."""
    lock: dict[str, Any] = json.loads((ROOT / "web" / "package-lock.json").read_text("utf-8"))
    found: dict[bool, list[tuple[str, str, str]]] = {False: [], True: []}
    for place, package in lock["packages"].items():
        if place and not package.get("optional"):
            name = place.rsplit("node_modules/", 1)[-1]
            found[bool(package.get("dev"))].append(
                (name, package["version"], package.get("license", "see its package"))
            )
    return {dev: list(dict.fromkeys(rows)) for dev, rows in found.items()}


if __name__ == "__main__":
    main()
