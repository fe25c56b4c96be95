"""Whether the time of an answer tells that an account exists: sign-in, sign-in by mail, and a forgotten password.

Run ./start first: accounts are made in that installation's database and taken away again. Half of the requests are
about them and half about nobody, in random order. For each kind the medians, and the p-value of the Mann-Whitney U test
(SciPy) that both come from one distribution: a small one means that the time tells.

bench/run sign_in [accounts]
"""

from __future__ import annotations

import os
import random
import statistics
import sys
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "server"), str(ROOT / "core")]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

import django  # noqa: E402

django.setup()

from allauth.account.models import EmailAddress  # noqa: E402
from axes.models import AccessAttempt, AccessFailureLog  # noqa: E402
from django.contrib.auth.models import User  # noqa: E402
from django.test import Client  # noqa: E402
from scipy.stats import mannwhitneyu  # type: ignore[import-untyped]  # noqa: E402

from post.models import Mail  # noqa: E402

AT = "@bench.example"
ASKED = {
    "sign-in with a wrong password": ("auth/login", {"password": "wrong-and-long-enough"}),
    "sign-in by mail": ("auth/code/request", {}),
    "forgotten password": ("auth/password/request", {}),
}


def main(number: int) -> None:
    names = [f"known{n}" for n in range(number)]
    users = [User.objects.create_user(name, f"{name}{AT}", "a password of the bench") for name in names]
    EmailAddress.objects.bulk_create(
        EmailAddress(user=user, email=user.email, verified=True, primary=True) for user in users
    )
    try:
        for what, (path, body) in ASKED.items():
            times: dict[str, list[float]] = {"known": [], "nobody": []}
            asked = [(kind, f"{kind}{n}{AT}") for kind in times for n in range(number)]
            random.Random(1).shuffle(asked)
            for place, (kind, email) in enumerate(asked):
                client = Client(REMOTE_ADDR=f"198.51.{place // 250}.{place % 250}", HTTP_HOST="localhost")
                began = time.perf_counter()
                address = f"/api/auth/browser/v1/{path}"
                answer = client.post(address, {"email": email, **body}, content_type="application/json")
                times[kind].append((time.perf_counter() - began) * 1000)
                assert answer.status_code in (200, 400, 401) and answer["Content-Type"] == "application/json", answer
            known, nobody = (statistics.median(times[kind]) for kind in times)
            p = mannwhitneyu(times["known"], times["nobody"]).pvalue
            print(f"{what}: with an account {known:.1f} ms, without {nobody:.1f} ms, p = {p:.3f} ({number} each)")
    finally:
        User.objects.filter(email__endswith=AT).delete()
        Mail.objects.filter(to__endswith=AT).delete()
        for model in (AccessAttempt, AccessFailureLog):
            model.objects.filter(username__iregex=r"^(known|nobody)\d+").delete()


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 150)
