"""How Debian's Chromium is started, for the tests, the pictures and the benches."""

from __future__ import annotations

import os
from typing import Any

LAUNCH: dict[str, Any] = {
    # The build without windows, which takes a sixth less time than the one that has them.
    "executable_path": "/usr/bin/chromium-headless-shell",
    "chromium_sandbox": os.geteuid() != 0,
    "args": [
        "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
        "--disable-component-update", "--disable-sync",
    ],
}  # fmt: skip
