"""How much memory the server takes for a clip of 500 MB.

./start && bench/run upload
"""

from __future__ import annotations

import http.client
import json
import os
import subprocess
import tempfile
import threading
import time
from pathlib import Path
from typing import Any

import psutil

ROOT = Path(__file__).resolve().parents[1]
PORT = int(os.environ.get("JURATA_PORT", "8417"))
DATA = Path(os.environ.get("JURATA_DATA", ROOT / "var"))
SIZE = 500 * 1000 * 1000


def make_clip(path: Path) -> None:
    """A playable MP4 of just SIZE bytes: a short clip and a box of nothing behind it."""
    source = ["-f", "lavfi", "-i", "testsrc=duration=2:size=320x240:rate=25", "-pix_fmt", "yuv420p"]
    subprocess.run(["ffmpeg", "-loglevel", "error", *source, "-c:v", "libx264", path], check=True)
    filler = SIZE - path.stat().st_size
    with path.open("r+b") as file:
        file.seek(0, os.SEEK_END)
        file.write((1).to_bytes(4, "big") + b"free" + filler.to_bytes(8, "big"))
        file.truncate(SIZE)


class Client:
    """A signed-in coach over plain HTTP."""

    def __init__(self) -> None:
        self.cookies: dict[str, str] = {}
        self.call("GET", "session")
        self.call("POST", "session", {"username": "coach", "password": "amber-on-the-mat"})

    def call(self, method: str, path: str, body: Any = None, stream: Any = None) -> Any:
        connection = http.client.HTTPConnection("127.0.0.1", PORT, timeout=300)
        headers = {"Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items())}
        headers["X-CSRFToken"] = self.cookies.get("csrftoken", "")
        if stream is not None:
            headers |= {
                "Content-Type": "application/offset+octet-stream",
                "Content-Length": str(SIZE),
                "Upload-Offset": "0",
            }
        elif body is not None:
            headers["Content-Type"] = "application/json"
        connection.request(method, f"/api/{path}", stream if stream is not None else json.dumps(body or {}), headers)
        answer = connection.getresponse()
        for name, value in answer.getheaders():
            if name.lower() == "set-cookie":
                key, _, rest = value.partition("=")
                self.cookies[key] = rest.split(";")[0]
        text = answer.read()
        return json.loads(text) if text else None


def server_memory() -> int:
    master = psutil.Process(int((DATA / "server.pid").read_text()))
    return sum(process.memory_info().rss for process in [master, *master.children(recursive=True)])


def main() -> None:
    client = Client()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "long.mp4"
        make_clip(path)
        before, peak, done = server_memory(), 0, threading.Event()

        def watch() -> None:
            nonlocal peak
            while not done.wait(0.02):
                peak = max(peak, server_memory())

        watcher = threading.Thread(target=watch)
        watcher.start()
        clip = client.call("POST", "clips", {"name": "long.mp4", "size": SIZE})
        start = time.perf_counter()
        with path.open("rb") as file:
            client.call("PATCH", f"clips/{clip['id']}/upload", stream=file)
        took = time.perf_counter() - start
        done.set()
        watcher.join()
    uploaded = client.call("GET", f"clips/{clip['id']}")
    client.call("DELETE", f"clips/{clip['id']}")
    print(f"upload of {SIZE / 1e6:.0f} MB: {took:.1f} s, state {uploaded.get('state', uploaded)}")
    print(f"server memory: {before / 1e6:.0f} MB before, at most {(peak - before) / 1e6:+.1f} MB during")


if __name__ == "__main__":
    main()
