"""What decides who may see a child, and who may be let in: only those who have that right already decide it."""

from __future__ import annotations

import datetime
import threading

from allauth.account.models import EmailAddress
from django.contrib.auth.models import User
from django.core import mail
from django.db import connection
from django.test import Client, TransactionTestCase

from clubs.actions import found_club, invite, leave, take_up
from clubs.models import Invitation, Membership, Role
from clubs.tests.test_clubs import ClubCase
from config.refusals import Refused
from journal.models import Entry
from reviews.actions import make_link, open_link
from reviews.models import Link
from roster.models import Athlete, give_consent
from training.actions import make_link as make_plan_link
from training.actions import open_link as open_plan_link
from training.models import Plan

YEAR = datetime.date.today().year
MATCH = {
    "opponent": "Bo", "ruleset": "full-points", "duration_ms": 60_000, "age": 12, "belt": "grey", "attire": "gi",
}  # fmt: skip


class RightsCase(ClubCase):
    def setUp(self):
        super().setUp()
        self.ines, self.parent = self.member("ines", Role.COACH), self.member("parent", Role.GUARDIAN)
        self.child = self.club.athletes.create(name="Finn Aro", birth_year=YEAR - 12, belt="grey")
        self.child.coaches.add(self.head)
        self.child.guardians.add(self.parent)
        self.match = self.child.matches.create(scorer=self.head, **MATCH)
        self.ada = self.club.athletes.create(name="Ada Brenn", birth_year=1999, belt="blue")

    def as_(self, user):
        client = Client()
        client.force_login(user)
        return client

    def written(self):
        return list(Entry.objects.filter(club=self.club.pk).values_list("what", "about").order_by("pk"))


class FactsThatDecideAccess(RightsCase):
    def test_a_coach_who_is_not_named_does_not_open_a_child(self):
        """The year of birth, the child's data, and the child itself, with guardian and consent."""
        ines, child = self.as_(self.ines), f"athletes/{self.child.pk}"
        give_consent(self.child, self.parent)
        for method, body in (
            ("patch", {"birth_year": 1990}),
            ("patch", {"name": "x"}),
            ("get", None),
            ("delete", None),
        ):
            self.assertEqual(self.call(method, child, body, ines).status_code, 404, method)
        self.assertEqual(self.call("get", f"{child}/coaches", client=ines).status_code, 404)
        self.assertEqual([one["name"] for one in self.call("get", "athletes", client=ines).json()], ["Ada Brenn"])
        self.assertEqual(self.call("get", f"matches/{self.match.pk}", client=ines).status_code, 404)
        self.child.refresh_from_db()
        self.assertEqual((self.child.birth_year, self.child.consent.name), (YEAR - 12, "parent"))

    def test_a_named_coach_leaves_it_to_a_head_coach_whether_it_is_a_child(self):
        self.child.coaches.add(self.ines)
        address = f"athletes/{self.child.pk}"
        for user, year, status in ((self.ines, YEAR - 13, 200), (self.ines, 1990, 403), (self.head, 1990, 200)):
            answer = self.call("patch", address, {"birth_year": year}, self.as_(user))
            self.assertEqual(answer.status_code, status, (user, year))
        self.assertEqual(self.call("patch", address, {"birth_year": YEAR - 12}, self.as_(self.ines)).status_code, 403)
        self.assertEqual(
            self.written(),
            [
                ("athlete changed", f"Finn Aro: birth year {YEAR - 12} to {YEAR - 13}"),
                ("athlete changed", f"Finn Aro: birth year {YEAR - 13} to 1990"),
            ],
        )

    def test_one_with_a_guardian_is_a_head_coach_s_to_delete(self):
        self.match.delete()
        self.child.coaches.add(self.ines)
        address = f"athletes/{self.child.pk}"
        self.assertEqual(self.call("delete", address, client=self.as_(self.ines)).status_code, 403)
        self.assertEqual(self.call("delete", address).status_code, 204)
        self.assertEqual(self.written(), [("athlete deleted", f"Finn Aro, born {YEAR - 12}")])
        added = self.call("post", "athletes", {"name": "Cilla", "birth_year": 2001, "belt": "blue"}).json()["id"]
        self.assertEqual(self.call("delete", f"athletes/{added}", client=self.as_(self.ines)).status_code, 204)

    def test_a_child_s_match_becomes_a_grown_athlete_s_by_a_head_coach_alone(self):
        self.child.coaches.add(self.ines)
        address, moved = f"matches/{self.match.pk}", {"athlete": self.ada.pk}
        self.assertEqual(self.call("patch", address, moved, self.as_(self.ines)).status_code, 403)
        self.assertEqual(self.call("patch", address, moved).status_code, 200)
        self.assertIn(("match moved", "Finn Aro against Bo: to Ada Brenn"), self.written())


class Links(RightsCase):
    def opens(self, token):
        return open_link(token) is not None

    def setUp(self):
        super().setUp()
        give_consent(self.child, self.parent)
        self.link = make_link(self.match, 14)[1]
        today = datetime.date.today()
        plan = Plan.objects.create(
            athlete=self.child, start=today, until=today + datetime.timedelta(9), sessions=1, minutes=30
        )
        self.plan = make_plan_link(plan, 14)
        self.assertTrue(self.opens(self.link) and open_plan_link(self.plan))

    def assert_ended(self):
        self.assertFalse(self.opens(self.link))
        self.assertIsNone(open_plan_link(self.plan))

    def test_a_consent_that_is_given_again_revives_no_link(self):
        parent = self.as_(self.parent)
        address = f"own/athletes/{self.child.pk}/consent"
        self.assertEqual(self.call("delete", address, client=parent).status_code, 200)
        self.assert_ended()
        self.assertEqual(self.call("post", address, client=parent).status_code, 200)
        self.assert_ended()
        self.assertTrue(Link.objects.get().revoked)

    def test_a_guardian_who_leaves_takes_the_links_along(self):
        self.call("delete", f"club/members/{Membership.objects.get(user=self.parent).pk}")
        give_consent(self.child, self.head)
        self.assert_ended()

    def test_links_from_when_somebody_was_taken_for_grown_end(self):
        for change in (
            lambda: self.call("patch", f"athletes/{self.ada.pk}", {"birth_year": YEAR - 9}),
            lambda: self.call("patch", "club", {"adult_age": 18}),
        ):
            Athlete.objects.filter(pk=self.ada.pk).update(birth_year=YEAR - 17)
            self.ada.refresh_from_db()
            give_consent(self.ada, self.parent)
            link = make_link(self.ada.matches.create(scorer=self.head, **MATCH), 300)[1]
            self.assertTrue(self.opens(link))
            self.assertEqual(change().status_code, 200)
            self.assertFalse(self.opens(link))


class Inviting(RightsCase):
    def test_a_coach_makes_nobody_the_guardian_of_a_child_they_are_not_named_for(self):
        self.client = self.as_(self.ines)
        for role in ("guardian", "athlete"):
            refused = self.invite(role=role, athlete=self.child.pk)
            self.assertEqual(refused.status_code, 404)
            self.assertNotIn("Finn", refused.content.decode())
        self.assertEqual(Invitation.objects.count(), 0)

    def test_who_is_in_the_club_names_no_child_to_a_coach_who_is_not_named(self):
        self.invite(role="guardian", athlete=self.child.pk)
        hers, heads = (self.call("get", "club", client=self.as_(user)).json() for user in (self.ines, self.head))
        self.assertEqual([one["of"] for one in hers["members"] if one["role"] == "guardian"], [[]])
        self.assertEqual([one["of"] for one in heads["members"] if one["role"] == "guardian"], [["Finn Aro"]])
        self.assertEqual((len(hers["invitations"]), len(heads["invitations"])), (0, 1))
        address = f"club/invitations/{heads['invitations'][0]['id']}"
        self.assertEqual(self.call("delete", address, client=self.as_(self.ines)).status_code, 404)

    def test_a_coach_withdraws_no_invitation_of_a_coach(self):
        made = self.invite().json()["id"]
        self.assertEqual(self.call("delete", f"club/invitations/{made}", client=self.as_(self.ines)).status_code, 403)

    def test_nobody_invites_themselves(self):
        self.child.coaches.add(self.ines)
        self.ines.email = "ines@dune.example"
        self.ines.save()
        self.client = self.as_(self.ines)
        self.assertEqual(self.invite(role="guardian", athlete=self.child.pk).json()["code"], "own_invitation")
        self.assertEqual(self.invite("other@dune.example", "guardian", athlete=self.child.pk).status_code, 201)
        EmailAddress.objects.create(user=self.ines, email="other@dune.example")  # added later
        taken = self.call("post", f"invitations/{self.token()}/taken-up")
        self.assertEqual((taken.status_code, taken.json()["code"]), (403, "own_invitation"))
        self.assertFalse(self.child.guardians.filter(pk=self.ines.pk).exists())

    def test_an_athlete_s_account_is_not_replaced(self):
        self.invite("late@dune.example", "athlete", athlete=self.ada.pk)
        late = self.token()
        User.objects.create_user("late", email="late@dune.example")
        self.ada.user = self.parent
        self.ada.save()
        self.assertEqual(self.invite("x@dune.example", "athlete", athlete=self.ada.pk).json()["code"], "has_account")
        visitor = self.as_(User.objects.get(username="late"))
        taken = self.call("post", f"invitations/{late}/taken-up", client=visitor)
        self.assertEqual((taken.status_code, taken.json()["code"]), (409, "has_account"))
        self.ada.refresh_from_db()
        self.assertEqual(self.ada.user, self.parent)

    def test_it_is_for_the_address_that_it_went_to(self):
        """A scorer with the link does not become a coach."""
        self.invite()
        scorer = self.as_(self.member("scorer", Role.SCORER))
        taken = self.call("post", f"invitations/{self.token()}/taken-up", client=scorer)
        self.assertEqual((taken.status_code, taken.json()["code"]), (403, "other_address"))
        self.assertTrue(Invitation.objects.exists())

    def test_invitations_end_with_the_role_of_who_sent_them(self):
        self.client = self.as_(self.ines)
        self.invite(role="scorer")
        leave(Membership.objects.get(user=self.ines))
        self.assertEqual(self.call("get", f"invitations/{self.token()}", client=Client()).status_code, 404)


class AtOnce(TransactionTestCase):
    """Two who take one invitation up at the same moment."""

    def test_one_of_them_joins(self):
        head = User.objects.create_user("orde")
        club = found_club("Dune Grappling", head)
        made = invite(club, head, {"head_coach"}, {"email": "ines@dune.example", "role": "coach"}, "http://x/")
        self.assertEqual(len(mail.outbox), 1)
        people = [User.objects.create_user(name, email="ines@dune.example") for name in ("one", "two")]
        said = []

        def go(user):
            try:
                take_up(made, user)  # both have read it while it held
                said.append("joined")
            except Refused as error:
                said.append(error.code)
            finally:
                connection.close()

        threads = [threading.Thread(target=go, args=(user,)) for user in people]
        for one in threads:
            one.start()
        for one in threads:
            one.join()
        self.assertEqual(sorted(said), ["joined", "no_invitation"])
        self.assertEqual(club.memberships.exclude(user=head).count(), 1)
