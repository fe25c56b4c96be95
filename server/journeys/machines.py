"""Two machines as deploy/ sets them up: network namespaces with nginx and TLS, servers and workers, joined by a bridge.

The first one has nginx, two processes of the server and both workers, the second one two processes of the server and a
worker for clips. The database is reached over the bridge, the folder of clips is shared.
"""

from __future__ import annotations

import os
import re
import shlex
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import unittest
import urllib.request
from pathlib import Path
from typing import ClassVar

from django.conf import settings
from django.core.management import call_command
from django.db import connection

from .base import Journey

sys.path.insert(0, str(settings.ROOT / "scripts"))
import nginx_conf

DEPLOY = settings.ROOT / "deploy"
BRIDGE, HERE, FIRST, SECOND = "jurata0", "10.213.7.1", "10.213.7.2", "10.213.7.3"
NAMESPACES = {"jurata-first": FIRST, "jurata-second": SECOND}
DATABASE_PORT = 5432
USER = settings.TOOLS_USER


def ip(*arguments: str, check: bool = True) -> None:
    subprocess.run(["ip", *arguments], check=check, capture_output=True)


def command_of(unit: str) -> list[str]:
    """What a unit of deploy/ starts, of this checkout."""
    text = (DEPLOY / "units" / unit).read_text("utf-8")
    found = re.search(r"^ExecStart=(.*)$", text, re.M)
    assert found is not None
    return shlex.split(found[1].replace("/opt/jurata/current", str(settings.ROOT)))


def settings_of(template: str) -> dict[str, str]:
    """The settings that deploy/install writes."""
    lines = (line.partition("=") for line in template.splitlines() if line and not line.startswith("#"))
    return {name: value for name, _, value in lines}


@unittest.skipUnless(os.geteuid() == 0, "only root makes network namespaces")
class TwoMachines(Journey):
    """The machines are set up once for a class; what a test has stopped is there again for the next one."""

    servers: ClassVar[dict[str, subprocess.Popen[bytes]]]
    media: ClassVar[dict[str, subprocess.Popen[bytes]]]

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.data = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        cls.data.chmod(0o755)
        cls.address = f"https://{FIRST}"
        cls.network()
        call_command("createcachetable", "cache", verbosity=0)
        cls.servers, cls.media = {}, {}
        cls.run_in("jurata-first", command_of("jurata-worker.service"))
        cls.run_what_stopped()
        cls.front()

    def setUp(self):
        super().setUp()
        self.address = f"https://{FIRST}"
        context = self.browser.new_context(viewport={"width": 1280, "height": 800}, ignore_https_errors=True)
        self.addCleanup(context.close)
        self.page = context.new_page()
        self.page.on("pageerror", lambda error: self.problems.append(str(error)))
        self.run_what_stopped()
        self.wait_until_ready()

    @classmethod
    def run_what_stopped(cls):
        """Servers and workers for clips, where they do not run."""
        for running, unit in ((cls.servers, "jurata-server.service"), (cls.media, "jurata-media@.service")):
            for name in NAMESPACES:
                if name not in running or running[name].poll() is not None:
                    running[name] = cls.run_in(name, command_of(unit))

    @classmethod
    def network(cls):
        cls.take_down()
        cls.addClassCleanup(cls.take_down)
        ip("link", "add", BRIDGE, "type", "bridge")
        ip("addr", "add", f"{HERE}/24", "dev", BRIDGE)
        ip("link", "set", BRIDGE, "up")
        for number, (name, address) in enumerate(NAMESPACES.items()):
            ip("netns", "add", name)
            ip("link", "add", f"jurata{number + 1}", "type", "veth", "peer", "name", "eth0", "netns", name)
            ip("link", "set", f"jurata{number + 1}", "master", BRIDGE, "up")
            ip("-n", name, "addr", "add", f"{address}/24", "dev", "eth0")
            for device in ("lo", "eth0"):
                ip("-n", name, "link", "set", device, "up")
        # The tests' database listens on loopback alone: here it is reached as one on a third machine would be.
        to = connection.settings_dict
        listen = f"TCP-LISTEN:{DATABASE_PORT},bind={HERE},fork,reuseaddr"
        cls.database = cls.started(["socat", listen, f"TCP:{to['HOST']}:{to['PORT']}"])

    @classmethod
    def take_down(cls):
        for name in NAMESPACES:
            ip("netns", "del", name, check=False)
        for device in ("jurata1", "jurata2", BRIDGE):
            ip("link", "del", device, check=False)

    @classmethod
    def environment(cls, name: str) -> dict[str, str]:
        template = (DEPLOY / "jurata.env.in").read_text("utf-8").replace("@HOST@", FIRST).replace("@PROCESSES@", "2")
        to = connection.settings_dict
        said = {
            **settings_of(template),
            "JURATA_DATA": str(cls.data),
            "JURATA_CLIPS": str(settings.MEDIA_ROOT),
            "JURATA_DB_HOST": HERE,
            "JURATA_DB_PORT": str(DATABASE_PORT),
            "JURATA_DB_NAME": to["NAME"],
            "JURATA_DB_PASSWORD": to["PASSWORD"],
            "JURATA_SECRET_KEY": settings.SECRET_KEY,
            "JURATA_SERVER_ADDRESS": NAMESPACES[name] if name != "jurata-first" else "127.0.0.1",
            "JURATA_CACHE": "dbcache://cache",
            "JURATA_BACKUP_TO": "",
        }
        return {"PATH": os.environ["PATH"], "HOME": "/nonexistent", **said}

    @classmethod
    def started(cls, command: list[str], **more) -> subprocess.Popen[bytes]:
        log = (cls.data / "machines.log").open("ab")
        cls.addClassCleanup(log.close)
        process = subprocess.Popen(command, stdout=log, stderr=log, start_new_session=True, **more)
        cls.addClassCleanup(cls.stop, process)
        return process

    @classmethod
    def stop(cls, process: subprocess.Popen[bytes]):
        """End a process and all that it has started, as when a machine loses its power."""
        if process.poll() is not None:
            return
        try:
            os.killpg(process.pid, signal.SIGKILL)
        except ProcessLookupError:
            pass
        process.wait()

    @classmethod
    def run_in(cls, name: str, command: list[str]) -> subprocess.Popen[bytes]:
        inside = ["ip", "netns", "exec", name, *command]
        return cls.started(inside, cwd=settings.ROOT / "server", env=cls.environment(name))

    @classmethod
    def front(cls):
        files = [str(cls.data / name) for name in ("cert.pem", "key.pem")]
        asked = ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", "-subj", f"/CN={FIRST}"]
        subprocess.run([*asked, "-out", files[0], "-keyout", files[1]], check=True, capture_output=True)
        os.chmod(files[1], 0o644)
        shutil.copytree(settings.WEB_DIST, cls.data / "static", dirs_exist_ok=True)
        listens = nginx_conf.secure(FIRST, *files, (f"{FIRST}:80", f"{FIRST}:443"))
        servers = ["127.0.0.1:8419", f"{SECOND}:8419"]
        nginx_conf.write(cls.data, listens, servers, str(settings.MEDIA_ROOT), "static", USER)
        # As its unit has it: without rights, but for the ports below 1024.
        binds = ["--inh-caps=+net_bind_service", "--ambient-caps=+net_bind_service"]
        drop = ["setpriv", f"--reuid={USER}", f"--regid={USER}", "--clear-groups", *binds]
        nginx = ["ip", "netns", "exec", "jurata-first", *drop, *command_of("jurata-nginx.service")]
        cls.started(nginx, cwd=cls.data, env={"PATH": os.environ["PATH"]})

    def wait_until_ready(self):
        import ssl

        trusting = ssl._create_unverified_context()
        for _ in range(300):
            try:
                urllib.request.urlopen(f"{self.address}/api/ready", context=trusting, timeout=5).close()
                return
            except OSError:
                time.sleep(0.1)
        self.fail((self.data / "machines.log").read_text("utf-8")[-3000:])
