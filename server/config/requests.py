"""Who asks."""

from __future__ import annotations

from typing import cast

from django.contrib.auth.models import AbstractBaseUser
from rest_framework.request import Request


def signed_in(request: Request) -> AbstractBaseUser:
    """The user who asks; every view that calls this lets only signed-in users through."""
    return cast(AbstractBaseUser, request.user)
