"""Signing in and out."""

import io
from datetime import timedelta
from unittest import mock

from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.auth.models import User
from django.test import Client, RequestFactory, TestCase, override_settings
from django.utils import timezone
from pypdf import PdfReader

from .guessing import address_of


class Session(TestCase):
    def setUp(self):
        User.objects.create_user("coach", password="amber", first_name="Coach", last_name="Orde")
        self.client = Client(enforce_csrf_checks=True)

    def post(self, **body):
        token = self.client.get("/api/session").cookies["csrftoken"].value
        return self.client.post("/api/session", body, content_type="application/json", headers={"X-CSRFToken": token})

    def test_in_and_out(self):
        self.assertEqual(self.client.get("/api/session").json(), {"name": None, "demo": None})
        self.assertEqual(self.post(username="coach", password="wrong").json()["code"], "wrong_sign_in")
        self.assertEqual(self.post(username="coach", password="amber").json(), {"name": "Coach Orde", "demo": None})
        token = self.client.cookies["csrftoken"].value
        self.assertEqual(self.client.delete("/api/session", headers={"X-CSRFToken": token}).status_code, 204)
        self.assertEqual(self.client.get("/api/session").json(), {"name": None, "demo": None})

    def test_a_user_who_is_changed_or_gone_is_not_remembered(self):
        user = User.objects.get()
        for change in (lambda: user.set_password("sea"), lambda: setattr(user, "is_active", False)):
            self.client.force_login(user)
            self.assertEqual(self.client.get("/api/session").json(), {"name": "Coach Orde", "demo": None})
            change()
            user.save()
            self.assertEqual(self.client.get("/api/session").json(), {"name": None, "demo": None})

    def test_guessing_is_not_listened_to_for_long_and_is_in_the_log(self):
        with self.assertLogs("axes", "WARNING") as logged:
            codes = [self.post(username="coach", password=f"guess {number}").json()["code"] for number in range(10)]
        self.assertEqual((codes[0], codes[6], codes[9]), ("wrong_sign_in", "wrong_sign_in", "locked_out"))
        self.assertTrue(any("coach" in line for line in logged.output))
        with mock.patch("django.contrib.auth.models.User.check_password") as asked:
            answer = self.post(username="coach", password="amber")
        self.assertEqual((answer.status_code, answer.json()["code"]), (429, "locked_out"))
        asked.assert_not_called()  # checking a password takes the processor a while
        self.assertIn("Wait 15 minutes", answer.json()["message"])
        AccessAttempt.objects.update(attempt_time=timezone.now() - timedelta(minutes=16))
        self.assertEqual(self.post(username="coach", password="amber").status_code, 200)

    def test_the_address_is_nginx_s_word_only_behind_nginx(self):
        request = RequestFactory().get("/", headers={"X-Real-IP": "192.0.2.7"})
        self.assertEqual(address_of(request), "127.0.0.1")
        with override_settings(NGINX_SENDS_FILES=True):
            self.assertEqual(address_of(request), "192.0.2.7")

    def test_the_demo_says_how_to_sign_in_and_only_the_demo(self):
        with override_settings(DEMO=True):
            got = self.client.get("/api/session").json()["demo"]
        self.assertEqual(got, {"name": "coach", "password": settings.DEMO_ACCOUNT[1]})

    def test_another_site_cannot_sign_in(self):
        answer = self.client.post(
            "/api/session", {"username": "coach", "password": "amber"}, content_type="application/json"
        )
        self.assertEqual(answer.status_code, 403)


class Keys(TestCase):
    def setUp(self):
        self.client.force_login(User.objects.create_user("coach", password="amber"))

    def put(self, keys):
        return self.client.put("/api/preferences", {"keys": keys}, content_type="application/json")

    def test_changed_keys_are_kept(self):
        self.assertEqual(self.client.get("/api/preferences").json(), {"keys": {}})
        self.assertEqual(self.put({"guard": "1"}).status_code, 200)
        self.assertEqual(self.client.get("/api/preferences").json(), {"keys": {"guard": "1"}})

    def test_faulty_keys_are_refused(self):
        for keys in ({"guard": "Ctrl"}, {"guard": "x", "mount": "x"}, {"g" * 90: "x"}, "guard"):
            self.assertEqual(self.put(keys).status_code, 400, keys)


class KeyCard(TestCase):
    def setUp(self):
        self.client.force_login(User.objects.create_user("coach", password="amber", first_name="Coach"))

    def asked(self, sections):
        return self.client.post("/api/key-card", {"sections": sections}, content_type="application/json")

    def test_the_keys_on_one_page(self):
        many = [{"keys": key, "words": f"what {key} does, in a few words"} for key in "ABCDEFGHIJKLMNOPQRSTUVWXYZ"]
        card = self.asked([{"title": title, "rows": many} for title in ("Who is where", "What happened", "The log")])
        self.assertEqual((card.status_code, card["Content-Type"]), (200, "application/pdf"))
        (page,) = PdfReader(io.BytesIO(card.content)).pages
        self.assertIn("what Z does", page.extract_text())

    def test_what_is_no_card_is_refused_by_field(self):
        for sections, field in (([], "sections"), ([{"title": "x" * 61, "rows": []}], "sections.0.title")):
            refused = self.asked(sections)
            self.assertEqual(refused.status_code, 400)
            self.assertEqual([fault["path"] for fault in refused.json()["faults"]], [field])
