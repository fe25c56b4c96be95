"""The project's own nginx in front of the server: it sends clips, and waits for slow clients."""

from __future__ import annotations

import http.client
import json
import shutil
import socket
import subprocess
import sys
import tempfile
import time
import uuid
from pathlib import Path
from unittest import mock
from urllib.parse import urlsplit

from django.conf import settings
from django.test import override_settings
from playwright.sync_api import expect

from footage import store
from footage.tests.storage import NOWHERE, bucket_for, place

from .base import Journey

sys.path.insert(0, str(settings.ROOT / "scripts"))
import nginx_conf


def free_port() -> int:
    with socket.create_server(("127.0.0.1", 0)) as found:
        return found.getsockname()[1]


class FrontCase(Journey):
    def setUp(self):
        super().setUp()
        self.enterContext(override_settings(NGINX_SENDS_FILES=True))
        data = Path(self.enterContext(tempfile.TemporaryDirectory()))
        data.chmod(0o755)
        self.port, static = free_port(), data / "static"
        shutil.copytree(settings.WEB_DIST, static)
        (static / "mark.svg").write_text("<svg/>")
        user = settings.TOOLS_USER
        server_port = urlsplit(self.live_server_url).port
        listens, servers = nginx_conf.plain(self.port), [f"127.0.0.1:{server_port}"]
        nginx_conf.write(data, listens, servers, str(settings.MEDIA_ROOT), "static", user, self.storage())
        nginx = subprocess.Popen(nginx_conf.command(user), cwd=data, stderr=subprocess.PIPE)
        self.addCleanup(nginx.communicate)
        self.addCleanup(nginx.terminate)
        for _ in range(200):
            try:
                socket.create_connection(("127.0.0.1", self.port)).close()
                break
            except ConnectionRefusedError:
                time.sleep(0.05)
        self.address = f"http://127.0.0.1:{self.port}"

    def storage(self) -> str:
        """The address of object storage; empty where clips are in the folder."""
        return ""

    def ask(self, method: str, path: str, body: str | None = None, **headers: str) -> http.client.HTTPResponse:
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
        self.addCleanup(connection.close)
        connection.request(method, path, body, headers)
        return connection.getresponse()

    def signed_in(self) -> dict[str, str]:
        self.client.force_login(self.coach)
        return {"Cookie": f"sessionid={self.client.cookies['sessionid'].value}"}


class Front(FrontCase):
    def test_a_clip_plays_and_ranges_come_from_nginx(self):
        clip = self.clip()
        path, whole = f"/api/clips/{clip.pk}/content", clip.path.read_bytes()
        cookie = self.signed_in()
        part = self.ask("GET", path, **cookie, Range="bytes=10-19")
        self.assertEqual((part.status, part.read()), (206, whole[10:20]))
        self.assertEqual(part.headers["Content-Type"], "video/webm")
        self.assertEqual(part.headers["Cache-Control"], "private, max-age=3600")
        self.assertEqual(part.headers["X-Content-Type-Options"], "nosniff")
        self.assertEqual(self.ask("GET", path, **cookie, Range=f"bytes={len(whole)}-").status, 416)
        self.assertEqual(self.ask("GET", path).status, 403)
        for inside in (f"/clip-files/{clip.pk}", f"/static/../clip-files/{clip.pk}", "/clip-files/"):
            self.assertEqual(self.ask("GET", inside, **cookie).status, 404, inside)
        self.assertEqual(self.ask("GET", "/static/mark.svg").read(), b"<svg/>")

    def test_a_clip_is_uploaded_through_it(self):
        self.sign_in("/matches/new")
        self.page.get_by_label("Upload a clip").set_input_files(self.footage)
        expect(
            self.page.get_by_label("or use one already uploaded").locator("option", has_text=self.footage.name)
        ).to_be_attached()

    def test_half_requests_hold_up_nobody(self):
        halves = (
            b"GET /api/session HTTP/1.1\r\nHost: x\r\nX-Slow: ",
            b"POST /api/auth/browser/v1/auth/login HTTP/1.1\r\nHost: x\r\nContent-Length: 50\r\n\r\n{",
        )
        for number in range(100):
            half = socket.create_connection(("127.0.0.1", self.port))
            self.addCleanup(half.close)
            half.sendall(halves[number % 2])
        self.assertEqual(json.loads(self.ask("GET", "/api/session").read())["name"], None)

    def test_guessing_from_one_address_is_slowed_down_before_a_password_is_checked(self):
        with self.assertLogs("django.security.csrf", "WARNING"):  # these come from no page of the server
            answers = [
                self.ask("POST", "/api/auth/browser/v1/auth/login", "{}", **{"Content-Type": "application/json"})
                for _ in range(40)
            ]
        statuses = [answer.status for answer in answers]
        self.assertEqual(set(statuses), {403, 429})
        slowed = json.loads(answers[-1].read())
        self.assertEqual((slowed["code"], slowed["faults"]), ("too_many_tries", []))
        self.assertEqual(self.ask("GET", "/api/session").status, 200)

    def test_what_is_too_large_is_said_in_the_server_s_own_form(self):
        answer = self.ask("PATCH", "/api/clips/x/upload", **{"Content-Length": str(33 * 1024**2)})
        self.assertEqual((answer.status, json.loads(answer.read())["code"]), (413, "too_large"))


class FrontOfStorage(FrontCase):
    """With clips in object storage, from which nginx sends them."""

    def storage(self) -> str:
        self.bucket = bucket_for(self)
        self.endpoint = settings.STORAGES["clips"]["OPTIONS"]["endpoint_url"]
        return self.endpoint

    def clip(self, *arguments, **more):
        """One that is in object storage alone."""
        made = super().clip(*arguments, **more)
        self.whole = made.path.read_bytes()
        store.send(made.path, made.path.name)
        made.path.unlink()
        return made

    def test_a_clip_plays_and_ranges_come_from_nginx(self):
        clip = self.clip()
        path, cookie = f"/api/clips/{clip.pk}/content", self.signed_in()
        part = self.ask("GET", path, **cookie, Range="bytes=10-19")
        self.assertEqual((part.status, part.read()), (206, self.whole[10:20]))
        self.assertEqual(part.headers["Content-Range"], f"bytes 10-19/{len(self.whole)}")
        self.assertEqual(part.headers.get_all("Content-Type"), ["video/webm"])
        self.assertEqual(part.headers.get_all("Cache-Control"), ["private, max-age=3600"])
        self.assertNotIn("x-amz-meta-sha256", part.headers)
        head = self.ask("HEAD", path, **cookie)
        self.assertEqual((head.status, head.headers["Content-Length"]), (200, str(len(self.whole))))
        self.assertEqual(self.ask("GET", path).status, 403)
        inside = self.ask("GET", f"/stored-files/{self.bucket.name}/{clip.pk}", **cookie)
        self.assertEqual(inside.headers["Content-Type"], "text/html; charset=utf-8")  # the page, as at any address
        self.assertEqual(list(Path(settings.MEDIA_ROOT).iterdir()), [])

    def test_a_clip_that_is_gone_is_said_to_be_gone(self):
        clip = self.clip()
        self.bucket.Object(str(clip.pk)).delete()
        answer = self.ask("GET", f"/api/clips/{clip.pk}/content", **self.signed_in())
        self.assertEqual((answer.status, json.loads(answer.read())["code"]), (404, "gone"))

    def test_the_clip_plays_at_the_desk(self):
        self.at_desk()
        self.go_to(5)
        self.until("Math.abs(document.querySelector('video').currentTime - 5) < 0.1")
        self.until("!document.querySelector('video').seeking")

    def test_a_storage_that_does_not_believe_the_address_is_not_taken_for_an_empty_one(self):
        clip = self.clip()
        wrong = f"{self.endpoint}/{self.bucket.name}/{uuid.uuid4()}?X-Amz-Signature=x"
        with mock.patch("footage.object_storage.address_of", return_value=wrong):
            answer = self.ask("GET", f"/api/clips/{clip.pk}/content", **self.signed_in())
        self.assertEqual((answer.status, json.loads(answer.read())["code"]), (503, "storage_away"))

    def test_while_the_storage_is_away_the_desk_says_so(self):
        match = self.match()
        with override_settings(STORAGES=place("clips", NOWHERE)), self.assertLogs("footage", "WARNING"):
            self.sign_in(f"/matches/{match.pk}")
            expect(self.page.get_by_role("alert")).to_contain_text("The storage for clips does not answer just now.")
