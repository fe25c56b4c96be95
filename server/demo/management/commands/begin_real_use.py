"""Make an installation ready for real use: no demo account can be signed in to, and there is a first account."""

from __future__ import annotations

import secrets

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandParser

from clubs.actions import found_club
from demo.setting import PASSWORD, SIGN_INS


class Command(BaseCommand):
    help = "Closes the demo's accounts, and makes the first account if no one can sign in. Safe to run again."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--name", default="admin", help="the sign-in name of the first account")

    def handle(self, *args: object, name: str, **options: object) -> None:
        for user in User.objects.filter(username__in=SIGN_INS):
            if user.check_password(PASSWORD):  # the published one
                user.set_unusable_password()
                user.save()
                self.stdout.write(f"The demo account {user.username} is closed.")
        if any(user.has_usable_password() for user in User.objects.filter(is_active=True)):
            return
        password = secrets.token_urlsafe(12)
        user, _ = User.objects.get_or_create(username=name, defaults={"is_staff": True, "is_superuser": True})
        user.set_password(password)
        user.is_superuser = True
        user.save()
        if not user.memberships.exists():
            found_club("My club", user)
        self.stdout.write(
            f"The first account is {name}, with the password {password}\n"
            f"It is shown this once. For another one: server/manage.py changepassword {name}"
        )
