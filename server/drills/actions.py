"""What is asked next, and what an answer does: wrong ones come back by a schedule of spaced repetition."""

from __future__ import annotations

import datetime
import random
from typing import Any

from django.db import transaction
from django.utils import timezone
from fsrs import Card as Memory
from fsrs import Rating, Scheduler

from config.refusals import Refused
from jurata_core.divisions import Division
from jurata_core.drill import TOPICS, Item, Topic, keys, make
from jurata_core.rulesets import Ruleset
from roster.models import Athlete

from .models import Card

SCHEDULER = Scheduler(enable_fuzzing=False)
SEEDS = 10**6


def next_item(
    owner: int, athlete: Athlete | None, topic: Topic | None, division: Division, ruleset: Ruleset
) -> tuple[Item, bool]:
    """What is due longest, else something new; and whether it was asked before."""
    known = keys(ruleset)
    wanted = [key for one in TOPICS if topic in (None, one) for key in known[one]]
    if not wanted:
        raise Refused("nothing_to_ask", f"{ruleset.title} has no points to ask about. Choose another topic.")
    cards = Card.objects.filter(owner_id=owner, athlete=athlete, key__in=wanted)
    due = cards.filter(due__lte=timezone.now()).order_by("due").first()
    rng = random.SystemRandom()
    if due is not None:
        return make(due.key, rng.randrange(SEEDS), division, ruleset), True
    asked = set(cards.values_list("key", flat=True))
    # A topic with few keys is asked as often as one with many.
    fresh = [[key for key in known[one] if key not in asked] for one in TOPICS if topic in (None, one)]
    choices = [some for some in fresh if some]
    key = rng.choice(rng.choice(choices)) if choices else rng.choice(wanted)
    return make(key, rng.randrange(SEEDS), division, ruleset), not choices


@transaction.atomic
def answered(owner: int, athlete: Athlete | None, item: Item, choice: int) -> Card:
    """Note an answer, and when it is asked again."""
    now = timezone.now()
    card, _ = Card.objects.select_for_update().get_or_create(
        owner_id=owner, athlete=athlete, key=item.key, defaults={"memory": Memory().to_dict(), "due": now}
    )
    right = choice == item.right
    memory, _ = SCHEDULER.review_card(Memory.from_dict(card.memory), Rating.Good if right else Rating.Again, now)
    card.memory, card.due = memory.to_dict(), memory.due
    card.right += right
    card.wrong += not right
    card.save()
    return card


def progress(owner: int) -> list[dict[str, Any]]:
    """For everybody who has practised and each topic: what was answered, and what is due."""
    now: datetime.datetime = timezone.now()
    rows: dict[tuple[int | None, str], dict[str, Any]] = {}
    for card in Card.objects.filter(owner_id=owner).select_related("athlete"):
        topic = card.key.split("/")[0]
        empty = {"athlete": card.athlete_id, "name": card.athlete.name if card.athlete else None, "topic": topic}
        row = rows.setdefault((card.athlete_id, topic), {**empty, "right": 0, "wrong": 0, "asked": 0, "due": 0})
        row["right"] += card.right
        row["wrong"] += card.wrong
        row["asked"] += 1
        row["due"] += card.due <= now
    return sorted(rows.values(), key=lambda row: (row["name"] or "", TOPICS.index(row["topic"])))
