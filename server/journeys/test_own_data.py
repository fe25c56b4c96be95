"""The first administrator, a passkey, two at one desk, and all of one's data: exported, kept for less long, deleted."""

from __future__ import annotations

import datetime
import io
import re
import zipfile
from datetime import timedelta
from unittest import mock

from django.contrib.auth.models import User
from django.core.management import call_command
from django.utils import timezone
from playwright.sync_api import expect

from clubs.models import Club, Role
from footage.models import Clip
from owndata.models import Deletion
from owndata.removing import carry_out_due

from .base import PASSWORD, TRUTH
from .test_club import ClubJourney


class FirstAdministrator(ClubJourney):
    def test_the_first_administrator_signs_in_and_founds_a_club(self):
        User.objects.all().delete()
        Club.objects.all().delete()
        said = io.StringIO()
        call_command("begin_real_use", name="keeper", stdout=said)
        password = re.search(r"with the password (\S+)", said.getvalue())[1]
        page = self.page
        page.goto(self.address)
        page.get_by_label("Name or e-mail").fill("keeper")
        page.get_by_label("Password").fill(password)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_text("No matches yet")).to_be_visible()
        page.get_by_role("link", name="keeper").click()
        page.get_by_role("link", name="Clubs of this installation").click()
        expect(page.get_by_role("heading", name="A further club")).to_be_visible()
        page.get_by_label("Name").fill("Reed Grappling")
        page.get_by_role("button", name="Found the club").click()
        expect(page.get_by_role("listitem").filter(has_text="Reed Grappling")).to_contain_text("1 member")
        page.get_by_label("Club").select_option("Reed Grappling")
        page.get_by_role("link", name="Club", exact=True).click()
        expect(page.get_by_role("heading", level=1)).to_have_text("Reed Grappling")
        page.get_by_label("E-mail address").fill("head@reed.example")
        page.get_by_label("Role").select_option("head coach")
        page.get_by_role("button", name="Send the invitation").click()
        expect(page.get_by_role("status")).to_contain_text("on its way to head@reed.example")
        guest = self.other_page()
        guest.goto(self.link_in_mail())
        guest.get_by_label("Your name").fill("Ines Varr")
        guest.get_by_label("Password").fill("sweep before you stand")
        guest.get_by_role("button", name="Create the account").click()
        expect(guest.get_by_text("No matches yet")).to_be_visible()
        page.reload()
        page.get_by_role("link", name="1 new notice").click()
        expect(page.get_by_text("Ines Varr has joined Reed Grappling as head coach.")).to_be_visible()
        page.get_by_role("link", name="Club", exact=True).click()
        page.get_by_role("button", name="Remove keeper, head coach").click()
        page.get_by_role("button", name="Remove", exact=True).click()
        expect(page.get_by_text("head@reed.example")).to_have_count(0)
        self.assertEqual(Club.objects.get(name="Reed Grappling").memberships.get().user.first_name, "Ines Varr")


class Passkeys(ClubJourney):
    def test_one_is_added_and_signs_in_by_itself(self):
        """The authenticator is Chromium's own virtual one, by the WebAuthn protocol of its developer tools."""
        page = self.page
        tools = page.context.new_cdp_session(page)
        tools.send("WebAuthn.enable")
        lock = {"protocol": "ctap2", "transport": "internal", "hasResidentKey": True, "hasUserVerification": True}
        tools.send("WebAuthn.addVirtualAuthenticator", {"options": {**lock, "isUserVerified": True}})
        self.sign_in_by_hand("/account")
        page.get_by_label("Name of this device").fill("My phone")
        page.get_by_role("button", name="Add a passkey").click()
        page.get_by_label("Your password, once more").fill(PASSWORD)
        page.get_by_role("button", name="Go on").click()
        expect(page.get_by_role("button", name="Remove My phone")).to_be_visible()
        self.signed_out(page)
        page.get_by_role("button", name="Use a passkey").click()
        expect(page.get_by_role("heading", name="Where you are signed in")).to_be_visible()
        self.signed_out(page)
        self.entered("coach", page)  # beside a password it is the second factor
        expect(page.get_by_role("heading", name="Second factor")).to_be_visible()
        page.get_by_role("button", name="Use a passkey").click()
        expect(page.get_by_text("No matches yet")).to_be_visible()


class OneDesk(ClubJourney):
    def test_two_at_one_desk_see_each_other(self):
        match = self.at_desk(TRUTH, with_clip=False)
        self.member("ines", Role.COACH)
        other = self.other_page()
        self.entered("ines", other)
        expect(other.get_by_role("heading", name="Matches", exact=True)).to_be_visible()
        other.goto(f"{self.address}/matches/{match.pk}")
        expect(other.get_by_role("list", name="Also at this desk")).to_have_text("with coach")
        expect(self.page.get_by_role("list", name="Also at this desk")).to_have_text("with Ines")
        other.keyboard.press("ArrowDown")
        expect(self.page.get_by_title("Ines is at this desk too, at 0:05.000")).to_be_visible()
        with mock.patch("matches.actions.PRESENT_FOR", timedelta(0)):
            expect(self.page.get_by_role("list", name="Also at this desk")).to_have_count(0)


class AllOfIt(ClubJourney):
    def again(self, page):
        page.get_by_label("Your password, once more").fill(PASSWORD)
        page.get_by_role("button", name="Go on").click()

    def downloaded(self, page) -> zipfile.ZipFile:
        """Have the worker write what was asked for, and download it."""
        expect(page.get_by_text("waiting for the worker")).to_be_visible()
        self.work_once()
        with page.expect_download() as arrived:
            page.get_by_role("link", name="Download").click()
        return zipfile.ZipFile(arrived.value.path())

    def test_a_head_coach_exports_the_club_and_clears_old_clips(self):
        match = self.match(TRUTH)
        Clip.objects.update(filmed=datetime.date(2019, 5, 4))
        self.sign_in_by_hand("/club")
        page = self.page
        page.get_by_role("link", name="The club’s data").click()
        page.get_by_role("button", name="Export everything").click()
        self.again(page)
        names = self.downloaded(page).namelist()
        self.assertTrue(any(f"{match.pk}/log.json" in name for name in names), names)
        self.assertTrue(any(name.startswith("clips/journey-") for name in names), names)
        page.get_by_label("Months").fill("24")
        page.get_by_role("button", name="Save").click()
        page.get_by_role("button", name="Delete 1 clip").click()
        page.get_by_role("button", name="Delete", exact=True).click()
        expect(page.get_by_text("waiting")).to_be_visible()
        self.work_once()
        expect(page.get_by_text(": 1 clip,")).to_be_visible()
        expect(page.get_by_text("No clip is older than that.")).to_be_visible()
        match.refresh_from_db()
        self.assertEqual((Clip.objects.count(), match.clip, match.observations.count()), (0, None, 12))

    def test_a_guardian_exports_and_deletes_and_changes_their_mind(self):
        self.athlete.birth_year = datetime.date.today().year - 12
        self.athlete.save()
        self.athlete.coaches.add(self.coach)
        self.athlete.guardians.add(self.member("sol", Role.GUARDIAN))
        match = self.match(TRUTH)
        page = self.page
        self.entered("sol", page)
        page.get_by_text("What is kept, and who sees it").click()
        page.get_by_role("main").get_by_role("link", name="Your account").click()
        page.get_by_role("button", name="Export everything").click()
        self.again(page)
        names = self.downloaded(page).namelist()
        self.assertTrue(any("/clips/journey-" in name for name in names), names)
        page.get_by_role("button", name="Delete everything about Ada Brenn").click()
        page.get_by_role("button", name="Delete it in 30 days").click()
        expect(page.get_by_text("Everything about Ada Brenn at Dune Grappling will be deleted on")).to_be_visible()
        page.get_by_role("button", name="Stop the deletion").click()
        expect(page.get_by_role("button", name="Delete everything about Ada Brenn")).to_be_visible()
        self.assertFalse(Deletion.objects.exists())
        page.get_by_role("button", name="Delete everything about Ada Brenn").click()
        page.get_by_role("button", name="Delete it in 30 days").click()
        expect(page.get_by_role("button", name="Stop the deletion")).to_be_visible()
        Deletion.objects.update(due=timezone.now())
        carry_out_due()
        page.goto(f"{self.address}/own")
        expect(page.get_by_text("No athlete is linked to your account")).to_be_visible()
        self.assertFalse(type(match).with_deleted.exists() or Clip.objects.exists())
