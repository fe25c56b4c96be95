"""Signing in and out."""

from django.contrib.auth.models import User
from django.test import Client, TestCase


class Session(TestCase):
    def setUp(self):
        User.objects.create_user("coach", password="amber", first_name="Coach", last_name="Varn")
        self.client = Client(enforce_csrf_checks=True)

    def post(self, **body):
        token = self.client.get("/api/session").cookies["csrftoken"].value
        return self.client.post("/api/session", body, content_type="application/json", headers={"X-CSRFToken": token})

    def test_in_and_out(self):
        self.assertEqual(self.client.get("/api/session").json(), {"name": None})
        self.assertEqual(self.post(username="coach", password="wrong").json()["code"], "wrong_sign_in")
        self.assertEqual(self.post(username="coach", password="amber").json(), {"name": "Coach Varn"})
        token = self.client.cookies["csrftoken"].value
        self.assertEqual(self.client.delete("/api/session", headers={"X-CSRFToken": token}).status_code, 204)
        self.assertEqual(self.client.get("/api/session").json(), {"name": None})

    def test_a_user_who_is_changed_or_gone_is_not_remembered(self):
        user = User.objects.get()
        for change in (lambda: user.set_password("sea"), lambda: setattr(user, "is_active", False)):
            self.client.force_login(user)
            self.assertEqual(self.client.get("/api/session").json(), {"name": "Coach Varn"})
            change()
            user.save()
            self.assertEqual(self.client.get("/api/session").json(), {"name": None})

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
