"""Accounts: signing in and out, what stands in the way of guessing, and what is one's own."""

import io
import re
from datetime import timedelta
from unittest import mock
from urllib.parse import unquote

import pyotp
from allauth.account.models import EmailAddress
from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.auth.models import User
from django.core import mail
from django.core.cache import cache
from django.test import Client, RequestFactory, TestCase, override_settings
from django.utils import timezone
from pypdf import PdfReader

from .guessing import address_of

AUTH = "/api/auth/browser/v1"


class AccountCase(TestCase):
    def setUp(self):
        cache.clear()
        self.user = User.objects.create_user(
            "coach", password="amber-on-the-mat", first_name="Coach", last_name="Orde", email="orde@dune.example"
        )
        EmailAddress.objects.create(user=self.user, email=self.user.email, verified=True, primary=True)
        self.client = Client(enforce_csrf_checks=True)

    def ask(self, method, path, body=None, client=None, **more):
        client = client or self.client
        client.get("/api/session")
        heads = {"X-CSRFToken": client.cookies["csrftoken"].value}
        call = getattr(client, method)
        return call(
            f"{AUTH}/{path}", "" if body is None else body, content_type="application/json", headers=heads, **more
        )

    def sign_in(self, password="amber-on-the-mat", who="coach", **more):
        return self.ask(
            "post", "auth/login", {"email" if "@" in who else "username": who, "password": password}, **more
        )

    def name(self, client=None):
        return (client or self.client).get("/api/session").json()["name"]

    def link(self):
        """What follows the # in the last mail's link."""
        return unquote(re.search(r"#(\S+)", mail.outbox[-1].body)[1])


class SigningIn(AccountCase):
    def test_by_name_and_by_address_in_and_out(self):
        for who in ("coach", "orde@dune.example", "Orde@dune.example"):
            self.assertEqual(self.sign_in(who=who).status_code, 200)
            self.assertEqual(self.name(), "Coach Orde")
            self.ask("delete", "auth/session")
            self.assertIsNone(self.name())
        self.assertEqual(self.sign_in("wrong").status_code, 400)

    def test_by_mail(self):
        self.assertEqual(self.ask("post", "auth/code/request", {"email": "orde@dune.example"}).status_code, 401)
        self.assertEqual(self.ask("post", "auth/code/confirm", {"code": "WRONG1"}).status_code, 400)
        self.assertEqual(self.ask("post", "auth/code/confirm", {"code": self.link()}).status_code, 200)
        self.assertEqual(self.name(), "Coach Orde")
        code = self.link()
        self.ask("delete", "auth/session")
        self.assertNotEqual(self.ask("post", "auth/code/confirm", {"code": code}).status_code, 200)

    def test_a_link_works_only_where_it_was_asked_for(self):
        self.ask("post", "auth/code/request", {"email": "orde@dune.example"})
        other = Client(enforce_csrf_checks=True)
        self.assertEqual(self.ask("post", "auth/code/confirm", {"code": self.link()}, other).status_code, 409)

    def test_a_forgotten_password(self):
        self.ask("post", "auth/password/request", {"email": "orde@dune.example"})
        key = self.link()
        self.assertEqual(self.ask("post", "auth/password/reset", {"key": key, "password": "short"}).status_code, 400)
        self.ask("post", "auth/password/reset", {"key": key, "password": "a longer one by far"})
        self.assertEqual(
            self.ask("post", "auth/password/reset", {"key": key, "password": "once more, no"}).status_code, 400
        )
        self.assertEqual(self.sign_in().status_code, 400)
        self.assertEqual(self.sign_in("a longer one by far").status_code, 200)

    def test_whether_there_is_an_account_is_told_to_its_address_alone(self):
        for email in ("orde@dune.example", "none@dune.example"):
            self.assertEqual(self.ask("post", "auth/password/request", {"email": email}).status_code, 200)
            self.assertEqual(self.ask("post", "auth/code/request", {"email": email}).status_code, 401)
        wrong = [self.sign_in("wrong", who).json() for who in ("coach", "nobody")]
        self.assertEqual(wrong[0], wrong[1])
        self.assertEqual({message.to[0] for message in mail.outbox}, {"orde@dune.example", "none@dune.example"})

    def test_a_password_is_checked_whether_there_is_an_account_or_not(self):
        """One hash is computed in each case, and that is what a sign-in takes its time for."""
        for who in ("coach", "nobody", "orde@dune.example", "none@dune.example"):
            with self.subTest(who), mock.patch("config.runner.QuickHasher.encode", side_effect=RuntimeError) as hashed:
                with self.assertRaises(RuntimeError):
                    self.sign_in("wrong", who)
                hashed.assert_called_once()

    def test_no_sign_up_without_an_invitation(self):
        body = {"first_name": "Ines", "email": "ines@dune.example", "password": "three-seconds"}
        self.assertEqual(self.ask("post", "auth/signup", body).status_code, 403)
        with override_settings(OPEN_SIGN_UP=True):
            self.assertEqual(self.ask("post", "auth/signup", body).status_code, 401)
        self.assertIsNone(self.name())  # the address is to be confirmed first
        self.ask("post", "auth/email/verify", {"key": self.link()})
        self.sign_in("three-seconds", "ines@dune.example")
        session = self.client.get("/api/session").json()
        self.assertEqual((session["name"], session["clubs"][0]["roles"]), ("Ines", ["head_coach"]))

    def test_an_account_from_before_there_were_addresses_signs_in(self):
        EmailAddress.objects.all().delete()
        User.objects.update(email="")
        self.assertEqual(self.sign_in().status_code, 200)

    def test_a_user_who_is_changed_or_gone_is_not_remembered(self):
        user = User.objects.get()
        for change in (lambda: user.set_password("sea"), lambda: setattr(user, "is_active", False)):
            self.client.force_login(user)
            self.assertEqual(self.name(), "Coach Orde")
            change()
            user.save()
            self.assertIsNone(self.name())

    def test_another_site_cannot_sign_in(self):
        body = {"username": "coach", "password": "amber-on-the-mat"}
        answer = self.client.post(f"{AUTH}/auth/login", body, content_type="application/json")
        self.assertEqual(answer.status_code, 403)

    def test_the_demo_says_how_to_sign_in_and_only_the_demo(self):
        with override_settings(DEMO=True):
            got = self.client.get("/api/session").json()["demo"]
        self.assertEqual(got, {"name": "coach", "password": settings.DEMO_ACCOUNT[1]})
        self.assertIsNone(self.client.get("/api/session").json()["demo"])


class OwnAccount(AccountCase):
    def setUp(self):
        super().setUp()
        self.sign_in()

    def test_the_password_is_changed_and_its_owner_told(self):
        path = "account/password/change"
        self.assertEqual(
            self.ask("post", path, {"current_password": "x", "new_password": "on the mat"}).status_code, 400
        )
        self.ask("post", path, {"current_password": "amber-on-the-mat", "new_password": "sea on the mat"})
        self.assertIn("password was changed", mail.outbox[-1].subject)
        self.assertEqual(self.name(), "Coach Orde")

    def test_devices_are_listed_and_signed_out(self):
        other = Client(enforce_csrf_checks=True)
        self.sign_in(client=other)
        rows = self.ask("get", "auth/sessions").json()["data"]
        self.assertEqual([row["is_current"] for row in rows].count(True), 1)
        self.ask("delete", "auth/sessions", {"sessions": [row["id"] for row in rows if not row["is_current"]]})
        self.assertEqual((self.name(), self.name(other)), ("Coach Orde", None))

    def test_a_second_factor_and_its_recovery_codes(self):
        """Codes as RFC 6238 has them, by another library; a code is taken once, and half a minute early or late."""
        clock = self.enterContext(mock.patch("allauth.mfa.totp.internal.auth.time"))
        clock.time.return_value = now = 1_800_000_000
        secret = self.ask("get", "account/authenticators/totp").json()["meta"]["secret"]
        code, late, early, later = (pyotp.TOTP(secret).at(now + by) for by in (0, -30, 30, -60))
        self.assertEqual(self.ask("post", "account/authenticators/totp", {"code": "000000"}).status_code, 400)
        self.assertEqual(self.ask("post", "account/authenticators/totp", {"code": code}).status_code, 401)
        self.ask("post", "auth/reauthenticate", {"password": "amber-on-the-mat"})
        self.assertEqual(self.ask("post", "account/authenticators/totp", {"code": code}).status_code, 200)
        spare = self.ask("get", "account/authenticators/recovery-codes").json()["data"]["unused_codes"]
        taken, refused = (code, late, early, spare[0]), (later, "123456", code, spare[0])
        for answer, status in [*((one, 200) for one in taken), *((one, 400) for one in refused)]:
            self.ask("delete", "auth/session")
            self.assertEqual(self.sign_in().status_code, 401)
            self.assertIsNone(self.name())
            self.assertEqual(self.ask("post", "auth/2fa/authenticate", {"code": answer}).status_code, status)
        self.assertIsNone(self.name())


class Guessing(AccountCase):
    def guess(self, times, who="coach", address="192.0.2.1"):
        stranger = Client(enforce_csrf_checks=True)
        asked = [self.sign_in(f"guess {n}", who, client=stranger, REMOTE_ADDR=address) for n in range(times)]
        return [answer.status_code for answer in asked]

    def test_five_hundred_guesses_end_at_the_fifth_and_the_owner_is_told(self):
        with self.assertLogs("axes", "WARNING") as logged:
            codes = self.guess(500)
        self.assertEqual((codes[:4], set(codes[4:])), ([400] * 4, {429}))
        self.assertTrue(any("coach" in line for line in logged.output))
        (sent,) = mail.outbox
        self.assertEqual((sent.to, "192.0.2.1" in sent.body), (["orde@dune.example"], True))
        with mock.patch("django.contrib.auth.models.User.check_password") as asked:
            answer = self.sign_in(REMOTE_ADDR="192.0.2.1")
        self.assertEqual((answer.status_code, answer.json()["code"]), (429, "locked_out"))
        asked.assert_not_called()  # checking a password takes the processor a while
        self.assertIn("Wait 15 minutes", answer.json()["message"])
        self.assertEqual(self.sign_in(REMOTE_ADDR="192.0.2.9").status_code, 200)  # its owner, from elsewhere

    def test_after_a_while_it_goes_on(self):
        self.guess(6)
        AccessAttempt.objects.update(attempt_time=timezone.now() - timedelta(minutes=16))
        self.assertEqual(self.sign_in(REMOTE_ADDR="192.0.2.1").status_code, 200)

    def test_others_at_the_same_address_are_not_locked_out(self):
        User.objects.create_user("ines", password="three-seconds")
        self.guess(20)
        self.assertEqual(self.sign_in("three-seconds", "ines", REMOTE_ADDR="192.0.2.1").status_code, 200)

    def test_name_and_address_of_an_account_are_counted_together(self):
        self.assertEqual(self.guess(3) + self.guess(2, "orde@dune.example"), [400] * 4 + [429])

    def test_an_account_that_does_not_exist_locks_alike(self):
        self.assertEqual(self.guess(6, "nobody"), self.guess(6))

    def test_many_addresses_close_an_account_to_strange_devices_alone(self):
        self.assertEqual(self.sign_in().status_code, 200)
        self.ask("delete", "auth/session")
        for number in range(10):
            self.guess(4, address=f"192.0.2.{number + 10}")
        stranger = Client(enforce_csrf_checks=True)
        refused = self.sign_in(client=stranger, REMOTE_ADDR="192.0.2.99")
        (error,) = refused.json()["errors"]
        self.assertEqual(error["code"], "too_many_login_attempts")
        self.assertIn("Wait 15 minutes, or have a sign-in link sent by mail", error["message"])
        self.assertEqual([message.to for message in mail.outbox], [["orde@dune.example"]])
        self.assertIn("192.0.2.", mail.outbox[0].body)
        self.assertEqual(self.sign_in(REMOTE_ADDR="192.0.2.99").status_code, 200)  # it has signed in before

    def test_the_address_is_nginx_s_word_only_behind_nginx(self):
        request = RequestFactory().get("/", headers={"X-Real-IP": "192.0.2.7"})
        self.assertEqual(address_of(request), "127.0.0.1")
        with override_settings(NGINX_SENDS_FILES=True):
            self.assertEqual(address_of(request), "192.0.2.7")


class SessionAlone(AccountCase):
    """Whoever has a session, and not the password, takes nothing over with it."""

    def setUp(self):
        super().setUp()
        self.sign_in()

    def mails_to(self, address):
        return [one for one in mail.outbox if one.to == [address]]

    def test_a_new_address_needs_the_password_and_gets_no_secret_before_it_is_confirmed(self):
        new = {"email": "thief@sound.example"}
        for method, body in (("post", new), ("delete", {"email": "orde@dune.example"})):
            self.assertEqual(self.ask(method, "account/email", body).status_code, 401)
        self.assertFalse(EmailAddress.objects.filter(**new).exists())
        self.ask("post", "auth/reauthenticate", {"password": "amber-on-the-mat"})
        self.assertEqual(self.ask("post", "account/email", new).status_code, 200)
        stranger = Client(enforce_csrf_checks=True)
        mail.outbox.clear()
        self.ask("post", "auth/password/request", new, stranger)
        self.ask("post", "auth/code/request", new, stranger)
        self.assertEqual(len(self.mails_to(new["email"])), 2)
        for sent in self.mails_to(new["email"]):
            self.assertNotRegex(sent.body, "new-password|#")
        code = {"code": "AAAAAA"}
        self.assertNotEqual(self.ask("post", "auth/code/confirm", code, stranger).status_code, 200)

    def test_factors_passkeys_and_exports_need_the_password(self):
        self.assertEqual(self.ask("get", "account/authenticators/webauthn").status_code, 401)
        for path in ("own-data/exports", "own-data/deletion"):
            heads = {"X-CSRFToken": self.client.cookies["csrftoken"].value}
            self.assertEqual(
                self.client.post(f"/api/{path}", content_type="application/json", headers=heads).json()["code"],
                "ask_again",
            )

    def test_guessing_the_password_where_it_is_changed_is_braked(self):
        body = {"new_password": "sea on the mat"}
        said = [
            self.ask("post", "account/password/change", {**body, "current_password": f"guess {n}"}).status_code
            for n in range(5)
        ]
        self.assertEqual(said[:4], [400] * 4)
        cache.clear()  # the package's own limit on requests, which ends after a minute
        right = self.ask("post", "account/password/change", {**body, "current_password": "amber-on-the-mat"})
        self.assertNotEqual(right.status_code, 200)
        self.assertEqual(self.mails_to("orde@dune.example")[0].subject, "Wrong passwords for your account")

    def test_an_address_that_somebody_only_claims_blocks_nobody(self):
        EmailAddress.objects.create(user=self.user, email="ines@dune.example", verified=False)
        body = {"first_name": "Ines", "email": "ines@dune.example", "password": "three-seconds"}
        visitor = Client(enforce_csrf_checks=True)
        with override_settings(OPEN_SIGN_UP=True):
            self.assertEqual(self.ask("post", "auth/signup", body, visitor).status_code, 401)
        self.ask("post", "auth/email/verify", {"key": self.link()}, visitor)
        self.assertEqual(self.sign_in("three-seconds", "ines@dune.example", client=visitor).status_code, 200)
        self.assertEqual(self.name(visitor), "Ines")

    def test_recovery_codes_work_while_codes_are_locked_and_the_owner_hears_of_it(self):
        secret = self.ask("get", "account/authenticators/totp")
        self.ask("post", "auth/reauthenticate", {"password": "amber-on-the-mat"})
        secret = self.ask("get", "account/authenticators/totp").json()["meta"]["secret"]
        self.ask("post", "account/authenticators/totp", {"code": pyotp.TOTP(secret).now()})
        spare = self.ask("get", "account/authenticators/recovery-codes").json()["data"]["unused_codes"]
        thief = Client(enforce_csrf_checks=True)
        self.sign_in(client=thief, REMOTE_ADDR="192.0.2.1")
        mail.outbox.clear()
        with mock.patch("allauth.mfa.totp.internal.auth.TOTP.validate_code", return_value=False):
            for _ in range(40):
                said = self.ask("post", "auth/2fa/authenticate", {"code": "123456"}, thief, REMOTE_ADDR="192.0.2.1")
        self.assertEqual(said.json()["errors"][0]["code"], "too_many_login_attempts")
        self.assertEqual([one.subject for one in mail.outbox], ["Wrong codes for your account"])
        self.ask("delete", "auth/session")
        self.sign_in()
        for code, status in ((pyotp.TOTP(secret).now(), 400), (spare[0], 200)):
            self.assertEqual(self.ask("post", "auth/2fa/authenticate", {"code": code}).status_code, status)
        for code in spare[1:]:  # whoever guesses has tried too many from there
            said = self.ask("post", "auth/2fa/authenticate", {"code": code}, thief, REMOTE_ADDR="192.0.2.1")
            self.assertNotEqual(said.status_code, 200)

    def test_links_in_mails_have_the_server_s_port_and_not_the_client_s(self):
        for behind, host in ((False, "localhost:666"), (True, "localhost:8417")):
            with override_settings(NGINX_SENDS_FILES=behind, PORT=8417):
                cache.clear()
                self.ask("post", "auth/password/request", {"email": "orde@dune.example"}, HTTP_HOST="localhost:666")
                self.assertIn(f"http://{host}/new-password#", mail.outbox[-1].body)


class Keys(TestCase):
    def setUp(self):
        self.client.force_login(User.objects.create_user("coach", password="amber"))

    def put(self, keys):
        return self.client.patch("/api/preferences", {"keys": keys}, content_type="application/json")

    def test_changed_keys_are_kept(self):
        usual = {"muted": ["clip_ready", "joined"], "hidden": []}
        self.assertEqual(self.client.get("/api/preferences").json(), {"keys": {}, **usual})
        self.assertEqual(self.put({"guard": "1"}).status_code, 200)
        self.assertEqual(self.client.get("/api/preferences").json(), {"keys": {"guard": "1"}, **usual})

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
