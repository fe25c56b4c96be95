"""Write the configuration of the project's own nginx, and the folders that it writes to.

nginx runs in the data folder as a user without rights, who need not be able to walk the path to it from the root.
"""

from __future__ import annotations

import argparse
import os
import pwd
from pathlib import Path

TEMPLATE = Path(__file__).with_name("nginx.conf.in")


def write(data: Path, port: int, server_port: int, clips: str, static: str, user: str) -> Path:
    """The configuration in ``data``; clips and static files are folders there, or full paths."""
    text = TEMPLATE.read_text("utf-8")
    values = {"PORT": port, "SERVER_PORT": server_port, "CLIPS": clips, "STATIC": static}
    for name, value in values.items():
        text = text.replace(f"@{name}@", str(value))
    (data / "nginx.conf").write_text(text, "utf-8")
    own = data / "nginx"
    own.mkdir(mode=0o700, exist_ok=True)
    if os.geteuid() == 0:
        account = pwd.getpwnam(user)
        os.chown(own, account.pw_uid, account.pw_gid)
    return data / "nginx.conf"


def command(user: str) -> list[str]:
    """How nginx is started, in the data folder."""
    drop = ["setpriv", f"--reuid={user}", f"--regid={user}", "--clear-groups"] if os.geteuid() == 0 else []
    return [*drop, "/usr/sbin/nginx", "-e", "stderr", "-p", "./", "-c", "nginx.conf", "-g", "daemon off;"]


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--data", type=Path, required=True)
    parser.add_argument("--port", type=int, required=True)
    parser.add_argument("--server-port", type=int, required=True)
    parser.add_argument("--clips", default="clips")
    parser.add_argument("--user", default="www-data")
    asked = parser.parse_args()
    clips = "clips" if Path(asked.clips) == asked.data / "clips" else asked.clips
    write(asked.data, asked.port, asked.server_port, clips, "static", asked.user)


if __name__ == "__main__":
    main()
