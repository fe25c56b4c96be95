"""How gunicorn serves: several processes, each with threads; nginx in front keeps slow clients away from them."""

from __future__ import annotations

import os
import shutil
import sys
from pathlib import Path
from typing import Any

from prometheus_client import multiprocess

bind = f"{os.environ.get('JURATA_SERVER_ADDRESS', '127.0.0.1')}:{os.environ.get('JURATA_SERVER_PORT', '8419')}"
workers = int(os.environ.get("JURATA_SERVER_PROCESSES", "2"))
worker_class = "gthread"
# More of them would wait for one another: a process runs one at a time.
threads = 4
keepalive = 75
timeout = 120
graceful_timeout = 5
control_socket_disable = True
# No statement of a request goes on for longer; the worker's and an operator's may.
os.environ.setdefault("PGOPTIONS", "-c statement_timeout=60s")


def on_starting(server: Any) -> None:
    """Begin the counts of this machine at nothing: those of processes that are gone would be added to them."""
    folder = os.environ.get("PROMETHEUS_MULTIPROC_DIR")
    if folder:
        shutil.rmtree(folder, ignore_errors=True)
        Path(folder).mkdir(parents=True)


def post_fork(server: Any, worker: Any) -> None:
    """Let threads take turns more often: a key waits for the database many times, and needs a turn after each."""
    sys.setswitchinterval(0.001)


def child_exit(server: Any, worker: Any) -> None:
    """Forget what a process that ended said about itself alone."""
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        multiprocess.mark_process_dead(worker.pid)  # type: ignore[no-untyped-call]
