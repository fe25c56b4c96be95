"""People: invited by mail, a second factor, an athlete on a phone, and a guardian who decides."""

from __future__ import annotations

import datetime
import re

import pyotp
from allauth.account.models import EmailAddress
from django.contrib.auth.models import User
from django.core import mail
from playwright.sync_api import Page, expect

from clubs.actions import join
from clubs.models import Membership, Role
from reviews.actions import remark, send
from reviews.queries import reviewed

from .base import PASSWORD, TRUTH, Journey


class ClubJourney(Journey):
    def link_in_mail(self) -> str:
        """The address in the last mail; its link leads to the server of the tests."""
        return re.search(r"https?://\S+", mail.outbox[-1].body)[0]

    def other_page(self, width: int = 1280, height: int = 800) -> Page:
        context = self.browser.new_context(viewport={"width": width, "height": height})
        self.addCleanup(context.close)
        return context.new_page()

    def member(self, name: str, role: Role) -> User:
        user = User.objects.create_user(name, password=PASSWORD, first_name=name.title())
        join(self.club, user, role)
        return user

    def signed_out(self, page: Page):
        page.get_by_role("button", name="Sign out").click()
        expect(page.get_by_role("heading", name="Sign in")).to_be_visible()

    def entered(self, name: str, page: Page):
        page.goto(self.address)
        page.get_by_label("Name or e-mail").fill(name)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()


class Invitations(ClubJourney):
    def test_a_coach_is_invited_by_mail_signs_up_and_is_removed(self):
        self.sign_in("/club")
        page = self.page
        page.get_by_label("E-mail address").fill("ines@dune.example")
        page.get_by_role("button", name="Send the invitation").click()
        expect(page.get_by_role("status")).to_contain_text("on its way to ines@dune.example")
        expect(page.get_by_role("heading", name="Invited")).to_be_visible()
        guest = self.other_page()
        guest.goto(self.link_in_mail())
        expect(guest.get_by_role("heading", name="Join Dune Grappling")).to_be_visible()
        guest.get_by_label("Your name").fill("Ines Varr")
        guest.get_by_label("Password").fill("qwerty123456")
        guest.get_by_role("button", name="Create the account").click()
        expect(guest.get_by_role("alert")).to_contain_text("too common")
        guest.get_by_label("Password").fill("sweep before you stand")
        guest.get_by_role("button", name="Create the account").click()
        expect(guest.get_by_role("heading", name="Matches", exact=True)).to_be_visible()
        expect(guest.get_by_text("Ines Varr")).to_be_visible()
        page.reload()
        page.get_by_role("button", name="Remove Ines Varr, coach").click()
        page.get_by_role("button", name="Remove", exact=True).click()
        expect(page.get_by_text("Ines Varr")).to_have_count(0)
        guest.reload()
        expect(guest.get_by_text("No athlete is linked to your account yet")).to_be_visible()
        self.assertFalse(Membership.objects.filter(user__first_name="Ines Varr").exists())

    def test_a_second_factor_is_set_up_and_asked_for(self):
        self.sign_in_by_hand("/account")
        page = self.page
        page.get_by_role("button", name="Set it up").click()
        secret = page.get_by_test_id("secret").inner_text()
        page.get_by_label("Code from the app").fill(pyotp.TOTP(secret).now())
        page.get_by_role("button", name="Turn it on").click()
        page.get_by_label("Your password, once more").fill(PASSWORD)
        page.get_by_role("button", name="Go on").click()
        expect(page.get_by_text("On: signing in by password also asks")).to_be_visible()
        page.get_by_role("button", name="Show them").click()
        spare = page.get_by_test_id("recovery-codes").get_by_role("listitem").first.inner_text()
        self.signed_out(page)
        self.entered("coach", page)
        expect(page.get_by_role("heading", name="Second factor")).to_be_visible()
        page.get_by_label("Code").fill("123456")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("alert")).to_contain_text("wrong or has ended")
        page.get_by_label("Code").fill(spare)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_text("No matches yet")).to_be_visible()

    def test_a_forgotten_password(self):
        EmailAddress.objects.create(user=self.coach, email="coach@dune.example", verified=True, primary=True)
        page = self.page
        page.goto(self.address)
        page.get_by_role("button", name="Forgot your password?").click()
        page.get_by_label("E-mail address").fill("coach@dune.example")
        page.get_by_role("button", name="Send the mail").click()
        expect(page.get_by_text("a mail with a link is on its way")).to_be_visible()
        page.goto(self.link_in_mail())
        page.get_by_label("Password").fill("a sweep and a pass")
        page.get_by_role("button", name="Change the password").click()
        page.get_by_role("link", name="Sign in").click()
        page.get_by_label("Name or e-mail").fill("coach@dune.example")
        page.get_by_label("Password").fill("a sweep and a pass")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_text("No matches yet")).to_be_visible()

    def test_a_scorer_sees_the_given_match_alone(self):
        given, other = self.match(TRUTH, with_clip=False), self.match(TRUTH, with_clip=False)
        given.opponent, given.scorer = "Enno Falk", self.member("ines", Role.SCORER)
        given.save()
        page = self.page
        self.entered("ines", page)
        expect(page.get_by_role("heading", level=2)).to_have_count(1)
        expect(page.get_by_text("Enno Falk").first).to_be_visible()
        expect(page.get_by_role("link", name="Athletes")).to_have_count(0)
        page.goto(f"{self.address}/matches/{other.pk}")
        expect(page.get_by_role("alert")).to_be_visible()


class Family(ClubJourney):
    def setUp(self):
        super().setUp()
        self.athlete.birth_year = datetime.date.today().year - 12
        self.athlete.user = self.member("ada", Role.ATHLETE)
        self.athlete.save()
        self.athlete.coaches.add(self.coach)
        self.athlete.guardians.add(self.member("sol", Role.GUARDIAN))
        self.scored = self.match(TRUTH)
        for error in reviewed(self.scored).review.errors:
            remark(self.scored, error.key, {"standing": "accepted"})

    def test_a_guardian_agrees_and_takes_it_back_and_the_link_is_dead(self):
        self.sign_in(f"/matches/{self.scored.pk}/review?part=send")
        page = self.page
        page.get_by_role("button", name="Create link").click()
        expect(page.get_by_role("alert")).to_contain_text("a guardian has to agree first")
        parent = self.other_page()
        self.entered("sol", parent)
        parent.get_by_role("button", name="I agree").click()
        expect(parent.get_by_text("Sol agreed on")).to_be_visible()
        page.get_by_role("button", name="Create link").click()
        address = page.get_by_label("The link").input_value()
        reader = self.other_page(390, 844)
        reader.goto(address)
        expect(reader.get_by_role("heading", level=1)).to_have_text("Ada against Bo")
        parent.get_by_role("button", name="Take it back").click()
        parent.get_by_role("alertdialog").get_by_role("button", name="Take it back").click()
        expect(parent.get_by_role("button", name="I agree")).to_be_visible()
        reader.reload()
        expect(reader.get_by_text("This link no longer works")).to_be_visible()

    def test_an_athlete_reads_ticks_and_answers_on_a_phone(self):
        page = self.other_page(390, 844)
        self.entered("ada", page)
        expect(page.get_by_text("No report was sent yet")).to_be_visible()
        expect(page.get_by_role("link", name="Matches")).to_have_count(0)
        send(self.scored, True)
        page.reload()
        page.get_by_role("link", name="against Bo Calder").click()
        page.get_by_role("checkbox").first.click()
        expect(page.get_by_role("checkbox").first).to_be_checked()
        page.get_by_label("Reply on the match").fill("I was tired.")
        page.get_by_role("button", name="Send to your coach").click()
        expect(page.get_by_label("Reply on the match")).to_have_value("")
        expect(page.get_by_text("I was tired.")).to_be_visible()
        page.goto(f"{self.address}/own")
        page.get_by_role("link", name="The season").click()
        expect(page.get_by_role("heading", name="What works")).to_be_visible()
        wide = page.evaluate("document.documentElement.scrollWidth > document.documentElement.clientWidth")
        self.assertFalse(wide)
        self.assertEqual((self.scored.ticks.count(), self.scored.answers.get().text), (1, "I was tired."))
