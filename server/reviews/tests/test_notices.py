"""Notices by mail: who gets one for what, and who has turned them off."""

from django.contrib.auth.models import User
from django.core import mail
from django.test import Client

from clubs.actions import join
from clubs.models import Role

from .base import ReviewCase


class Notices(ReviewCase):
    def setUp(self):
        super().setUp()
        self.coach.email = "coach@dune.example"
        self.coach.save()
        self.ines = User.objects.create_user("ines", password="amber", email="ines@dune.example")
        join(self.club, self.ines, Role.SCORER)

    def sent(self, act):
        """To whom mails went while something was done."""
        mail.outbox.clear()
        with self.captureOnCommitCallbacks(execute=True):
            act()
        return [(message.to[0], message.subject) for message in mail.outbox]

    def test_each_goes_to_whom_it_concerns_and_names_nobody(self):
        asked = self.sent(lambda: self.at("post", "seconds", {"user": self.ines.pk}))
        self.assertEqual(asked, [("ines@dune.example", "A match to score")])
        theirs = Client()
        theirs.force_login(self.ines)
        second = self.scored.seconds.get()
        handed = self.sent(lambda: theirs.post(f"/api/matches/{second.pk}/finished"))
        self.assertEqual(handed, [("coach@dune.example", "A second score was submitted")])
        self.athlete.user = User.objects.create_user("ada", email="ada@dune.example")
        self.athlete.save()
        shown = self.sent(lambda: self.at("put", "sent", {"sent": True}))
        self.assertEqual(shown, [("ada@dune.example", "A new report")])
        token = self.at("post", "links", {"days": 7}).json()["token"]
        body = {"text": "I was tired."}
        path = f"/api/shared/{token}/answers"
        answered = self.sent(lambda: Client().post(path, body, content_type="application/json"))
        self.assertEqual(answered, [("coach@dune.example", "A reply to a report")])
        for name in ("Ada", "Calder", "tired"):
            self.assertNotIn(name, mail.outbox[0].body)

    def test_nobody_is_told_of_what_they_did_or_do_not_want(self):
        given = {"scorer": self.coach.pk, "due": None}
        self.assertEqual(self.sent(lambda: self.at("put", "people", given)), [])
        theirs = Client()
        theirs.force_login(self.ines)
        theirs.patch("/api/preferences", {"muted": ["given"]}, content_type="application/json")
        self.assertEqual(self.sent(lambda: self.at("put", "people", {**given, "scorer": self.ines.pk})), [])
        refused = theirs.patch("/api/preferences", {"muted": ["everything"]}, content_type="application/json")
        self.assertEqual([fault["path"] for fault in refused.json()["faults"]], ["muted.0"])

    def test_each_is_read_in_the_product_as_well(self):
        theirs = Client()
        theirs.force_login(self.ines)
        due = {"scorer": self.ines.pk, "due": "2026-12-03"}
        self.at("put", "people", due)
        self.assertEqual(theirs.get("/api/session").json()["unread"], 1)
        shown = theirs.get("/api/notices").json()
        text = "To score: Ada Brenn against Bo Calder, by 3 December 2026."
        self.assertEqual(
            [(one["text"], one["path"], one["read"]) for one in shown], [(text, f"/matches/{self.match_id}", False)]
        )
        self.assertEqual([one["read"] for one in theirs.put("/api/notices/read").json()], [True])
        self.assertEqual(theirs.get("/api/session").json()["unread"], 0)
        theirs.patch("/api/preferences", {"hidden": ["given"]}, content_type="application/json")
        self.at("put", "people", due)
        self.assertEqual(len(theirs.get("/api/notices").json()), 1)
        self.assertEqual(self.client.get("/api/notices").json(), [])  # one's own alone
