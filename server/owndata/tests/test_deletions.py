"""Deletions: asked for, stopped, and carried out so that nothing of it is left."""

from __future__ import annotations

from datetime import timedelta
from pathlib import Path
from unittest import mock

from django.apps import apps
from django.contrib.auth.models import User
from django.core import mail
from django.utils import timezone

from clubs.actions import found_club, join
from clubs.models import Club, Role
from footage.models import Clip, FilesToRemove
from footage.upkeep import mend
from journal.models import Entry, forget_old_entries
from matches.models import Match
from owndata.models import Deletion
from owndata.removing import carry_out_due
from roster.models import Athlete, Consent, give_consent
from rulebook.models import HouseRules

from .base import OwnDataCase


class DeletionCase(OwnDataCase):
    def become_due(self):
        Deletion.objects.update(due=timezone.now() - timedelta(seconds=1))
        return carry_out_due()

    def files(self):
        return {path.name.partition(".")[0] for path in Path(self.folder).iterdir()}


class OfAnAccount(DeletionCase):
    def test_there_are_30_days_to_change_one_s_mind(self):
        asked = self.ask("post", "own-data/deletion", client=self.theirs).json()["deletion"]
        due = Deletion.objects.get().due
        self.assertEqual((due - timezone.now() + timedelta(minutes=1)).days, 30)
        self.assertEqual(asked["asked_by"], "sol")
        self.assertEqual(mail.outbox[-1].to, ["sol@dune.example"])
        self.assertIn(f"on {due:%-d %B %Y}", mail.outbox[-1].body)
        self.assertEqual(carry_out_due(), 0)
        self.assertIsNone(self.ask("delete", "own-data/deletion", client=self.theirs).json()["deletion"])
        self.assertEqual(self.become_due(), 0)
        self.assertTrue(User.objects.filter(username="sol").exists())

    def test_then_nothing_of_the_account_is_left(self):
        give_consent(self.child, self.parent)
        match = self.match_of(self.child)
        Match.objects.filter(pk=match.pk).update(scorer=self.parent)
        self.ask("post", "own-data/deletion", client=self.theirs)
        self.assertEqual(self.become_due(), 1)
        self.assertEqual(self.theirs.get("/api/session").json()["name"], None)
        self.assertFalse(User.objects.filter(username="sol").exists())
        for model in apps.get_models():  # no table has a row that still points to it, nor its address
            for field in model._meta.get_fields():
                if getattr(field, "related_model", None) is User and hasattr(field, "attname"):
                    self.assertFalse(model.objects.filter(**{field.attname: self.parent.pk}).exists(), model)
        match.refresh_from_db()
        self.assertIsNone(match.scorer)  # what was scored is the club's
        self.assertIsNotNone(Consent.objects.get().withdrawn)  # nobody holds to it any more
        self.assertEqual(mail.outbox[-1].to, ["sol@dune.example"])

    def test_the_only_head_coach_stays(self):
        answer = self.ask("post", "own-data/deletion")
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "last_head_coach"))
        other = self.member("next", Role.HEAD_COACH)
        self.assertEqual(self.ask("post", "own-data/deletion").status_code, 200)
        self.club.memberships.filter(user=other).delete()
        self.assertEqual(self.become_due(), 0)  # the other one has left meanwhile: it waits
        join(self.club, other, Role.HEAD_COACH)
        self.assertEqual(self.become_due(), 1)


class OfAnAthlete(DeletionCase):
    def test_a_guardian_has_everything_about_the_child_deleted(self):
        own, shared = self.clip("own.mp4"), self.clip("shared.mp4")
        first, second = self.match_of(self.child, own), self.match_of(self.child, shared)
        Match.objects.filter(pk=second.pk).update(deleted=timezone.now())
        self.match_of(self.athlete, shared)
        path = f"own/athletes/{self.child.pk}/deletion"
        shown = self.ask("post", path, client=self.theirs).json()["athletes"]
        self.assertEqual([one["deletion"]["asked_by"] for one in shown], ["sol"])
        told = [message.to[0] for message in mail.outbox[-2:]]
        self.assertEqual(told, ["coach@dune.example", "sol@dune.example"])
        self.assertNotIn("Ilya", mail.outbox[-1].body)
        self.assertEqual([one["name"] for one in self.ask("get", "club/data").json()["athletes"]], ["Ilya Marsh"])
        self.assertEqual(self.become_due(), 1)
        self.assertFalse(Athlete.objects.filter(name="Ilya Marsh").exists())
        self.assertFalse(Match.with_deleted.filter(pk__in=[first.pk, second.pk]).exists())
        self.assertEqual(self.files(), {str(shared.pk)})  # another athlete is in it as well
        self.assertTrue(User.objects.filter(pk=self.parent.pk).exists())

    def test_a_worker_that_is_killed_at_it_leaves_no_file_for_long(self):
        """However often: the next one goes on within a minute, and does not wait for the night."""
        clip = self.clip("child.mp4")
        self.match_of(self.child, clip)
        self.ask("post", f"own/athletes/{self.child.pk}/deletion", client=self.theirs)
        with mock.patch("footage.models.transaction.on_commit"):  # it dies before anything after the commit
            self.assertEqual(self.become_due(), 1)
        self.assertIn(str(clip.pk), self.files())
        with (
            mock.patch("footage.models.remove_files", side_effect=InterruptedError),
            self.assertRaises(InterruptedError),
        ):
            mend()
        mend()
        self.assertNotIn(str(clip.pk), self.files())
        self.assertFalse(FilesToRemove.objects.exists())

    def test_it_is_theirs_alone_to_ask_for(self):
        path = f"own/athletes/{self.athlete.pk}/deletion"
        self.assertEqual(self.ask("post", path, client=self.theirs).status_code, 404)
        self.assertEqual(self.ask("post", path).status_code, 404)


class OfAClub(DeletionCase):
    def test_it_takes_all_that_the_club_owns_and_leaves_the_others(self):
        rules = HouseRules.objects.create(club=self.club, version=1, shared=True, body={"extends": "full-points"})
        other = found_club("Reed Grappling", self.parent)
        guest = Athlete.objects.create(club=other, name="Guest", birth_year=2000, belt="blue")
        theirs = self.match_of(guest, Clip.objects.create(club=other, name="other.mp4", size=1, state="ready"))
        Match.objects.filter(pk=theirs.pk).update(house_rules=rules, ruleset=rules.body)
        self.match_of(self.child, self.clip())
        self.ask("post", "club/data/deletion")
        self.assertEqual(self.become_due(), 1)
        self.assertEqual(list(Club.objects.filter(pk=self.club.pk)), [])
        self.assertEqual([match.pk for match in Match.with_deleted.all()], [theirs.pk])
        theirs.refresh_from_db()
        self.assertEqual((theirs.house_rules, theirs.ruleset), (None, {"extends": "full-points"}))
        self.assertEqual(self.files(), set())
        self.assertTrue(User.objects.filter(pk=self.coach.pk).exists())
        self.assertEqual(Entry.objects.filter(what="deleted").get().about, "the club Dune Grappling")


class TheJournal(DeletionCase):
    def test_lines_end_after_two_years_and_not_before(self):
        from django.db import connection

        with connection.cursor() as cursor:  # a line of long ago, as time would have made it
            cursor.execute(
                "INSERT INTO journal_entry (at, name, what, about, address)"
                " SELECT now() - interval '1 day' * days, 'x', 'old', days::text, '' FROM unnest(array[732, 700]) AS days"
            )
        forget_old_entries()
        self.assertEqual([entry.about for entry in Entry.objects.filter(what="old")], ["700"])
