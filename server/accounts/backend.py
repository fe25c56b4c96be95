"""Who is signed in, remembered for a few seconds: it is asked at every key of the desk."""

from __future__ import annotations

from typing import Any

from allauth.account.auth_backends import AuthenticationBackend
from django.contrib.auth.models import User
from django.core.cache import cache
from django.db.models.signals import post_delete, post_save
from django.dispatch import receiver

REMEMBERED_S = 10
"""So long a user who was changed by another process may still be taken as before."""


class RemembersUsers(AuthenticationBackend):  # type: ignore[misc]  # allauth has no types
    def get_user(self, user_id: int) -> User | None:
        return cache.get_or_set(_name(user_id), lambda: super(RemembersUsers, self).get_user(user_id), REMEMBERED_S)


@receiver([post_save, post_delete], sender=User)
def forget(instance: User, **_: Any) -> None:
    cache.delete(_name(instance.pk))


def _name(user_id: int) -> str:
    return f"user-{user_id}"
