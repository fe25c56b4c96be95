"""A machine whose clock jumps: nothing that was logged is lost, put in another order, or taken for somebody else's."""

from __future__ import annotations

from datetime import timedelta
from unittest import mock

from django.utils import timezone

from matches.models import Match

from .base import CoachCase

BACK, ON = timedelta(hours=-2), timedelta(hours=6)


def jumped(by: timedelta):
    now = timezone.now() + by
    return mock.patch("django.utils.timezone.now", return_value=now)


class JumpingClock(CoachCase):
    def test_keys_are_kept_in_their_order_and_the_history_too(self):
        match = self.match()
        for number, by in enumerate((timedelta(0), BACK, ON, BACK)):
            with jumped(by):
                answer = self.put(match, f"k{number}", t=20 + number, kind="exchange")
                self.assertEqual(answer.status_code, 200, answer.content)
                self.assertEqual(self.call("put", f"matches/{match.pk}/here", {"t": 1}).json(), [])
                looked = self.call("get", f"matches/{match.pk}/revision").json()["revision"]
                self.assertEqual(looked, Match.objects.get(pk=match.pk).revision)
        rows = match.observations.order_by("revision").values_list("key", flat=True)
        self.assertEqual(list(rows)[-4:], ["k0", "k1", "k2", "k3"])
        steps = self.call("get", f"matches/{match.pk}/history").json()
        self.assertEqual([one["key"] for one in steps][:4], ["k3", "k2", "k1", "k0"])
