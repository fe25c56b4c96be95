"""Who is in a club: invitations, roles, and what a migration makes of data from before there were clubs."""

from __future__ import annotations

import re
from datetime import timedelta

from allauth.account.models import EmailAddress
from django.contrib.auth.models import User
from django.core import mail
from django.core.cache import cache
from django.db import DatabaseError, connection, transaction
from django.db.migrations.executor import MigrationExecutor
from django.test import Client, TestCase, TransactionTestCase
from django.utils import timezone

from clubs.actions import found_club, join
from clubs.models import Club, Invitation, Membership, Role
from journal.models import Entry, note


class ClubCase(TestCase):
    def setUp(self):
        cache.clear()
        self.head = User.objects.create_user("orde", password="amber", first_name="Coach Orde")
        self.club = found_club("Dune Grappling", self.head)
        self.client.force_login(self.head)

    def call(self, method, path, body=None, client=None):
        return getattr(client or self.client, method)(f"/api/{path}", body, content_type="application/json")

    def invite(self, email="ines@dune.example", role="coach", **more):
        return self.call("post", "club/invitations", {"email": email, "role": role, **more})

    def token(self):
        return re.search(r"invitation#(\S+)", mail.outbox[-1].body)[1]

    def member(self, name, role):
        user = User.objects.create_user(name, password="amber")
        join(self.club, user, role)
        return user


class Invited(ClubCase):
    def test_a_coach_signs_up_by_the_mail(self):
        self.assertEqual(self.invite().status_code, 201)
        self.assertIn("Coach Orde invites you to Dune Grappling", mail.outbox[0].body)
        visitor = Client()
        shown = self.call("get", f"invitations/{self.token()}", client=visitor).json()
        self.assertEqual((shown["club"], shown["role"], shown["known"]), ("Dune Grappling", "coach", False))
        address = "auth/browser/v1/auth/signup"
        body = {"first_name": "Ines", "email": "other@dune.example", "password": "three-seconds"}
        self.assertEqual(self.call("post", address, body, visitor).status_code, 400)  # another address than invited
        done = self.call("post", address, {**body, "email": "ines@dune.example"}, visitor)
        self.assertEqual(done.status_code, 200, done.content)  # the link in the mail has confirmed the address
        session = visitor.get("/api/session").json()
        self.assertEqual((session["name"], session["clubs"][0]["roles"]), ("Ines", ["coach"]))
        self.assertEqual(self.call("get", f"invitations/{self.token()}", client=Client()).status_code, 404)
        self.assertFalse(Invitation.objects.exists())

    def test_one_who_has_an_account_gets_notice_and_the_inviter_too(self):
        ines = User.objects.create_user("ines", email="ines@dune.example")
        theirs = Client()
        theirs.force_login(ines)
        self.invite()
        self.assertFalse(ines.notices.exists())  # nobody has confirmed that the address is theirs
        EmailAddress.objects.create(user=ines, email="ines@dune.example", verified=True, primary=True)
        self.invite(email="Ines@dune.example")
        notice = ines.notices.get()
        self.assertEqual(notice.text, "Coach Orde invites you to Dune Grappling as coach.")
        by_id = notice.path.partition("#")[2]
        self.assertEqual(Client().get(f"/api/invitations/{by_id}").status_code, 404)
        self.assertEqual(self.client.get(f"/api/invitations/{by_id}").status_code, 404)  # of another address
        self.assertEqual(theirs.get(f"/api/invitations/{by_id}").json()["club"], "Dune Grappling")
        self.assertEqual(self.call("post", f"invitations/{by_id}/taken-up", client=theirs).status_code, 204)
        self.assertEqual(self.head.notices.get().text, "ines has joined Dune Grappling as coach.")

    def test_one_who_has_an_account_joins_with_it_and_switches_clubs(self):
        ines = User.objects.create_user("ines", password="sea", email="ines@dune.example")
        found_club("Tide Grappling", ines)
        self.invite()
        visitor = Client()
        visitor.force_login(ines)
        self.assertTrue(self.call("get", f"invitations/{self.token()}", client=visitor).json()["known"])
        self.assertEqual(self.call("post", f"invitations/{self.token()}/taken-up", client=visitor).status_code, 204)
        chosen = {one["name"]: one["chosen"] for one in visitor.get("/api/session").json()["clubs"]}
        self.assertEqual(chosen, {"Dune Grappling": True, "Tide Grappling": False})
        tide = Club.objects.get(name="Tide Grappling")
        self.assertEqual(self.call("put", "club/chosen", {"club": tide.pk}, visitor).status_code, 204)
        self.assertEqual(self.call("get", "club", client=visitor).json()["club"]["name"], "Tide Grappling")
        self.assertEqual(self.call("put", "club/chosen", {"club": tide.pk}).status_code, 404)

    def test_athletes_and_guardians_are_of_an_athlete(self):
        made = self.call("post", "athletes", {"name": "Ada Brenn", "birth_year": 2014, "belt": "grey"}).json()["id"]
        athlete = self.club.athletes.get(pk=made)
        for role, athletes in (("coach", made), ("guardian", None)):
            refused = self.invite(role=role, athlete=athletes)
            self.assertEqual([fault["path"] for fault in refused.json()["faults"]], ["athlete"])
        parent = User.objects.create_user("parent", password="sea", email="ines@dune.example")
        visitor = Client()
        visitor.force_login(parent)
        self.invite(role="guardian", athlete=made)
        self.call("post", f"invitations/{self.token()}/taken-up", client=visitor)
        self.assertEqual(list(athlete.guardians.all()), [parent])
        member = next(one for one in self.call("get", "club").json()["members"] if one["role"] == "guardian")
        self.assertEqual(member["of"], ["Ada Brenn"])
        self.call("delete", f"club/members/{member['id']}")
        self.assertFalse(athlete.guardians.exists())

    def test_it_ends_by_itself_when_withdrawn_or_sent_again(self):
        self.invite()
        first = self.token()
        self.invite()
        self.assertEqual(Invitation.objects.count(), 1)
        self.assertEqual(self.call("get", f"invitations/{first}").status_code, 404)
        Invitation.objects.update(ends=timezone.now() - timedelta(seconds=1))
        self.assertEqual(self.call("get", f"invitations/{self.token()}").status_code, 404)
        made = self.invite().json()["id"]
        self.assertEqual(self.call("delete", f"club/invitations/{made}").status_code, 204)
        self.assertEqual(self.call("get", f"invitations/{self.token()}").status_code, 404)

    def test_a_coach_invites_no_coaches(self):
        self.client.force_login(self.member("ines", Role.COACH))
        self.assertEqual(self.invite().status_code, 403)
        self.assertEqual(self.invite(role="scorer").status_code, 201)


class Members(ClubCase):
    def test_the_last_head_coach_stays(self):
        heads = Membership.objects.get(user=self.head)
        self.assertEqual(self.call("delete", f"club/members/{heads.pk}").json()["code"], "last_head_coach")
        self.member("ines", Role.HEAD_COACH)
        self.assertEqual(self.call("delete", f"club/members/{heads.pk}").status_code, 204)
        self.assertEqual(self.call("get", "club").status_code, 403)

    def test_a_coach_stays_named_as_long_as_one_role_as_a_coach_is_left(self):
        ines = self.member("ines", Role.COACH)
        join(self.club, ines, Role.SCORER)
        athlete = self.club.athletes.create(name="Ada Brenn", birth_year=2014, belt="grey")
        athlete.coaches.add(ines)
        for role, named in ((Role.SCORER, True), (Role.COACH, False)):
            gone = Membership.objects.get(user=ines, role=role)
            self.call("delete", f"club/members/{gone.pk}")
            self.assertEqual(athlete.coaches.filter(pk=ines.pk).exists(), named)

    def test_the_settings_are_checked_by_field(self):
        refused = self.call("patch", "club", {"name": "", "adult_age": 12})
        self.assertEqual({fault["path"] for fault in refused.json()["faults"]}, {"name", "adult_age"})
        self.assertEqual(self.call("patch", "club", {"adult_age": 18}).json()["club"]["adult_age"], 18)


class Journal(ClubCase):
    def test_what_is_done_to_a_club_is_written_down(self):
        self.invite()
        self.call("delete", f"club/invitations/{Invitation.objects.get().pk}")
        self.call("patch", "club", {"name": "Dune Grapplers"})
        rows = list(Entry.objects.filter(club=self.club.pk).values_list("name", "what").order_by("pk"))
        self.assertEqual(rows, [("Coach Orde", what) for what in ("invited", "invitation withdrawn", "club changed")])

    def test_the_database_lets_nobody_change_or_delete_a_row(self):
        note("joined", user=self.head)
        for change in (lambda: Entry.objects.update(name="x"), lambda: Entry.objects.all().delete()):
            with self.assertRaisesMessage(DatabaseError, "only added to"), transaction.atomic():
                change()
        self.assertEqual(Entry.objects.get(what="joined").name, "Coach Orde")


class FromBefore(TransactionTestCase):
    """The migrations, on what each coach had as their own before there were clubs."""

    BEFORE = [
        ("roster", "0002_practice"), ("footage", "0006_script"), ("rulebook", "0002_technique_names"),
        ("reviews", "0007_answers_read"), ("matches", "0012_deleted_and_parts"), ("clubs", None),
    ]  # fmt: skip

    def migrate(self, targets):
        executor = MigrationExecutor(connection)
        executor.loader.build_graph()
        executor.migrate(targets)
        return (
            MigrationExecutor(connection)
            .loader.project_state([target for target in targets if target[1] is not None])
            .apps
        )

    def tearDown(self):
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())

    def test_everything_moves_into_a_club_of_its_owner_s(self):
        apps = self.migrate(self.BEFORE)
        get = apps.get_model
        coach, second, idle = (
            get("auth", "User").objects.create(username=name, first_name=name.title())
            for name in ("orde", "ines", "idle")
        )
        athlete = get("roster", "Athlete").objects.create(owner=coach, name="Ada", birth_year=2012, belt="grey")
        clip = get("footage", "Clip").objects.create(owner=coach, name="a.mp4", size=1)
        setting = {
            "athlete": athlete, "opponent": "Bo", "ruleset": "full-points", "duration_ms": 1, "age": 12, "belt": "grey",
            "attire": "gi",
        }  # fmt: skip
        match = get("matches", "Match").objects.create(owner=coach, clip=clip, **setting)
        again = get("matches", "Match").objects.create(owner=second, second_of=match, **setting)
        get("rulebook", "HouseRules").objects.create(owner=coach, version=1, body={"title": "Ours"}, shared=True)
        get("rulebook", "TechniqueName").objects.create(owner=coach, name="x", spelled="x", technique="armbar")
        get("reviews", "Causes").objects.create(owner=coach, words=["slow"])
        get("reviews", "KindSetting").objects.create(owner=coach, kind="stuck", off=True)
        self.tearDown()
        club = Club.objects.get(name="Orde's club")
        self.assertEqual([one.name for one in club.athletes.all()], ["Ada"])
        self.assertEqual([one.pk for one in club.athletes.get().coaches.all()], [coach.pk])
        self.assertEqual([one.uploader_id for one in club.clips.all()], [coach.pk])
        self.assertEqual([one.author_id for one in club.house_rules.all()], [coach.pk])
        self.assertEqual([one.name for one in club.technique_names.all()], ["x"])
        self.assertEqual((club.causes.words, club.kind_settings.get().kind), (["slow"], "stuck"))
        scorers = {one.pk: one.scorer_id for one in club.athletes.get().matches.all()}
        self.assertEqual(scorers, {match.pk: coach.pk, again.pk: second.pk})
        roles = {(one.user_id, one.club.name, one.role) for one in Membership.objects.all()}
        expected = {
            (coach.pk, "Orde's club", "head_coach"), (second.pk, "Orde's club", "scorer"),
            (idle.pk, "Idle's club", "head_coach"),
        }  # fmt: skip
        self.assertEqual(roles, expected)
