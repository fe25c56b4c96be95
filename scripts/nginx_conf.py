"""Write the configuration of the project's own nginx, and the folders that it writes to.

nginx runs in the data folder as a user without rights, who need not be able to walk the path to it from the root.
"""

from __future__ import annotations

import argparse
import os
import pwd
from collections.abc import Sequence
from pathlib import Path
from urllib.parse import urlsplit

RESOLVERS = Path("/etc/resolv.conf")
TEMPLATE = Path(__file__).with_name("nginx.conf.in")
STORED = Path(__file__).with_name("nginx-storage.conf.in")
"""What is added to it where clips are kept in object storage."""
REDIRECT = """\
  server {{
    listen {plain};
    server_name {host};
    return 301 https://{host}$request_uri;
  }}

"""
TLS = """\
    listen {secure} ssl http2;
    server_name {host};
    ssl_certificate {certificate};
    ssl_certificate_key {key};
    ssl_protocols TLSv1.2 TLSv1.3;
    ssl_session_cache shared:tls:10m;
    ssl_session_tickets off;\
"""


def plain(port: int) -> dict[str, str]:
    """How it listens without TLS: on this machine alone."""
    return {"BEFORE": "", "LISTEN": f"    listen 127.0.0.1:{port};"}


def secure(host: str, certificate: str, key: str, ports: tuple[str, str] = ("80", "443")) -> dict[str, str]:
    """How it listens with TLS, and sends whoever asks without it there. ``ports`` may have an address before them."""
    first, second = ports
    return {
        "BEFORE": REDIRECT.format(plain=first, host=host),
        "LISTEN": TLS.format(secure=second, host=host, certificate=certificate, key=key),
    }


def stored(endpoint: str) -> str:
    """How clips are sent from object storage at an address such as https://storage.example."""
    address = urlsplit(endpoint)
    found = (line.split() for line in RESOLVERS.read_text("utf-8").splitlines()) if RESOLVERS.exists() else ()
    names = [f"[{words[1]}]" if ":" in words[1] else words[1] for words in found if words[:1] == ["nameserver"]]
    # Its name is looked up again and again: its addresses change, and nginx starts without it.
    resolver = f"resolver {' '.join(names)} valid=60s;" if names else ""
    values = {"HOST": address.netloc, "SCHEME": address.scheme, "NAME": address.hostname or "", "RESOLVER": resolver}
    return _filled(STORED, values)


def _filled(template: Path, values: dict[str, str]) -> str:
    text = template.read_text("utf-8")
    for name, value in values.items():
        text = text.replace(f"@{name}@", value)
    return text


def write(
    data: Path, listens: dict[str, str], servers: Sequence[str], clips: str, static: str, user: str, storage: str = ""
) -> Path:
    """The configuration in ``data``; clips and static files are folders there, or full paths.

    ``servers`` are the addresses of the server's processes, each with its port; ``storage`` is the address of the
    object storage where there is one.
    """
    asked = " ".join(f"server {one};" for one in servers)
    values = {"SERVERS": asked, "CLIPS": clips, "STATIC": static, "STORED": stored(storage) if storage else ""}
    (data / "nginx.conf").write_text(_filled(TEMPLATE, {**listens, **values}), "utf-8")
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
    parser.add_argument("--port", type=int, help="listen on this machine alone, without TLS")
    parser.add_argument("--host", help="listen for everybody, with TLS, under this name")
    parser.add_argument("--certificate", default="/etc/jurata/tls/cert.pem")
    parser.add_argument("--key", default="/etc/jurata/tls/key.pem")
    parser.add_argument("--server", dest="servers", action="append", required=True, help="address:port, once for each")
    parser.add_argument("--clips", default="clips")
    parser.add_argument("--storage", default="", help="the address of object storage, where clips are kept there")
    parser.add_argument("--user", default="www-data")
    asked = parser.parse_args()
    clips = "clips" if Path(asked.clips) == asked.data / "clips" else asked.clips
    listens = secure(asked.host, asked.certificate, asked.key) if asked.host else plain(asked.port)
    write(asked.data, listens, asked.servers, clips, "static", asked.user, asked.storage)


if __name__ == "__main__":
    main()
