"""Matches and what was seen in them."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models

from config.choices import ATTIRES, BELTS


class Kept(models.Manager["Match"]):
    """The matches that were not deleted."""

    def get_queryset(self) -> models.QuerySet[Match]:
        return super().get_queryset().filter(deleted=None)


class Match(models.Model):
    """One match of an athlete. ``ruleset`` is as the match log has it: an id, or an object that extends one."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    scorer = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="matches",
        help_text="who scores it: who set it up, or to whom it was given",
    )  # fmt: skip
    athlete = models.ForeignKey("roster.Athlete", models.RESTRICT, related_name="matches")
    due = models.DateField(null=True, blank=True, help_text="by when it is to be scored")
    opponent = models.CharField(max_length=80)
    club = models.CharField(max_length=80, blank=True, help_text="the opponent's")
    event = models.CharField(max_length=120, blank=True)
    round = models.CharField(max_length=40, blank=True)
    weight_class = models.CharField(max_length=40, blank=True)
    mat = models.CharField(max_length=20, blank=True)
    date = models.DateField(null=True, blank=True)
    ruleset = models.JSONField()
    house_rules = models.ForeignKey(
        "rulebook.HouseRules", models.RESTRICT, null=True, blank=True, related_name="matches",
        help_text="the house rules that the ruleset is, where it is some",
    )  # fmt: skip
    duration_ms = models.PositiveIntegerField(null=True, help_text="of regular time; null where it has no length")
    age = models.PositiveSmallIntegerField()
    belt = models.CharField(max_length=10, choices=BELTS)
    attire = models.CharField(max_length=5, choices=ATTIRES)
    clip = models.ForeignKey("footage.Clip", models.SET_NULL, null=True, blank=True, related_name="matches")
    clip_start_ms = models.IntegerField(
        default=0, help_text="where in the footage of the match the first frame of the clip lies"
    )
    opens_ms = models.PositiveIntegerField(default=0, help_text="where in the clip the match begins")
    closes_ms = models.PositiveIntegerField(null=True, help_text="where in the clip the match ends; null: with it")
    revision = models.PositiveBigIntegerField(
        default=0, help_text="rises with every change of its log and its setting, and by far at a restore"
    )
    athlete_looks = models.CharField(max_length=60, blank=True, help_text="how the athlete is told apart in the clip")
    opponent_looks = models.CharField(max_length=60, blank=True, help_text="how the opponent is told apart in it")
    plan = models.TextField(blank=True, help_text="what the athlete set out to do")
    readings = models.JSONField(default=list, help_text="what the scoreboard showed: a list of {t, left} in seconds")
    second_of = models.ForeignKey(
        "self", models.CASCADE, null=True, blank=True, related_name="seconds",
        help_text="the match that this one scores again, blind",
    )  # fmt: skip
    finished = models.BooleanField(default=False, help_text="whether a second scorer has said to be done")
    practice = models.BooleanField(default=False, help_text="whether it is the practice match: it counts nowhere")
    source = models.CharField(
        max_length=64, blank=True, db_index=True, help_text="of an imported match: the same for the same match again"
    )
    deleted = models.DateTimeField(null=True, help_text="when it was deleted; it can be restored for some days")
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)

    objects = Kept()
    with_deleted: models.Manager[Match] = models.Manager()

    class Meta:
        ordering = ["-date", "-created"]
        default_manager_name = "objects"
        indexes = [models.Index(fields=["athlete", "-date", "-created"], name="matches_of_an_athlete")]
        verbose_name_plural = "matches"

    def __str__(self) -> str:
        return f"{self.athlete} against {self.opponent}"


class Summary(models.Model):
    """What a match came to at a revision, under one version of the core: lists, seasons and estimates read this.

    The fields after ``core`` are all derived from the log and the setting; see :mod:`matches.summaries`.
    """

    match = models.OneToOneField(Match, models.CASCADE, primary_key=True, related_name="summary")
    revision = models.PositiveBigIntegerField()
    core = models.CharField(max_length=16, help_text="the fingerprint of the core that scored it")
    observed = models.PositiveIntegerField(help_text="how many observations its log has")
    winner = models.CharField(max_length=1, blank=True, help_text="a or b; empty where nobody has won")
    method = models.CharField(max_length=24, help_text="how it came out; unfinished before its end is logged")
    score = models.JSONField(help_text="points, advantages and penalties of both sides")
    because = models.TextField(help_text="the sentence of the result")
    outdated = models.BooleanField(default=False, help_text="whether the club's settings have changed since")
    lesson = models.JSONField(default=dict, help_text="what it teaches the estimates; empty where it is not over")
    group = models.JSONField(default=list, help_text="the matches most like it: ruleset, belt and age class")
    figures = models.JSONField(default=dict, help_text="what it adds to its athlete's season")
    length_ms = models.PositiveIntegerField(default=0, help_text="how long its clock ran")
    scoring = models.JSONField(default=list, help_text="what it says of its scorer; empty where it is not known")
    tried = models.JSONField(default=dict, help_text="of each move of the athlete, how often it worked and was tried")
    mistakes = models.JSONField(default=list, help_text="the errors found in it, as a season counts them")
    costs = models.JSONField(
        null=True, help_text="what each error cost of the chance of winning, by its key; null: not calculated yet"
    )

    class Meta:
        verbose_name_plural = "summaries"

    def __str__(self) -> str:
        return f"summary of {self.match}"


class ClubLesson(models.Model):
    """What all matches of a club teach together, by one version of the core; ``version`` rises with every change."""

    club = models.OneToOneField("clubs.Club", models.CASCADE, primary_key=True, related_name="lesson")
    core = models.CharField(max_length=16)
    version = models.PositiveIntegerField(default=0)
    lesson = models.JSONField(default=dict)
    spreads = models.JSONField(null=True, help_text="how its athletes' shares are spread, by move; null: to be found")

    def __str__(self) -> str:
        return f"what {self.club} knows"


class GroupLesson(models.Model):
    """What the matches of one group of a club teach, by the core that its :class:`ClubLesson` is of."""

    club = models.ForeignKey("clubs.Club", models.CASCADE, related_name="group_lessons")
    group = models.JSONField(help_text="ruleset, belt and age class")
    lesson = models.JSONField(default=dict)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["club", "group"], name="one_lesson_a_group")]

    def __str__(self) -> str:
        return f"what {self.club} knows of {', '.join(self.group)}"


class WithClips(models.Manager["FurtherClip"]):
    """Nobody wants the place of a clip without the clip."""

    def get_queryset(self) -> models.QuerySet[FurtherClip]:
        return super().get_queryset().select_related("clip")


class FurtherClip(models.Model):
    """A clip after the first: the footage of a match may come in pieces, with gaps between them."""

    match = models.ForeignKey(Match, models.CASCADE, related_name="further")
    clip = models.ForeignKey("footage.Clip", models.CASCADE, related_name="further")
    start_ms = models.IntegerField(help_text="where in the footage of the match the first frame of the clip lies")
    opens_ms = models.PositiveIntegerField(default=0, help_text="where in the clip the match begins")
    closes_ms = models.PositiveIntegerField(null=True, help_text="where in the clip the match ends; null: with it")

    objects = WithClips()

    class Meta:
        ordering = ["start_ms"]

    def __str__(self) -> str:
        return f"{self.clip} in {self.match}"


class Presence(models.Model):
    """Somebody at the desk of a match: where their playhead was, and when they last said so."""

    match = models.ForeignKey(Match, models.CASCADE, related_name="present")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="+")
    t_ms = models.PositiveIntegerField(help_text="where the playhead was in the footage")
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["match", "user"], name="one_presence_a_person")]

    def __str__(self) -> str:
        return f"{self.user} at {self.match}"


class Observation(models.Model):
    """One thing seen. ``key`` is made by the browser, so that sending it twice stores it once.

    A deleted observation stays, marked, with its place in the order: taking the
    deletion back restores it exactly.
    """

    match = models.ForeignKey(Match, models.CASCADE, related_name="observations")
    key = models.CharField(max_length=64)
    sequence = models.PositiveBigIntegerField(help_text="the order in which observations were first made")
    body = models.JSONField(help_text="the observation as the match log has it")
    deleted = models.BooleanField(default=False)
    revision = models.PositiveBigIntegerField(default=0, help_text="the match's revision at its last change")
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["sequence"]
        constraints = [
            models.UniqueConstraint(fields=["match", "key"], name="one_observation_a_key"),
            models.UniqueConstraint(fields=["match", "sequence"], name="one_observation_a_place"),
        ]

    def __str__(self) -> str:
        return f"{self.body.get('kind')} at {self.body.get('t')} s"


class Change(models.Model):
    """One step of a match's history: what an observation was before, and after. Null: not there."""

    match = models.ForeignKey(Match, models.CASCADE, related_name="changes")
    key = models.CharField(max_length=64)
    who = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)
    revision = models.PositiveBigIntegerField()
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-revision"]
        constraints = [models.UniqueConstraint(fields=["match", "revision"], name="one_change_a_revision")]

    def __str__(self) -> str:
        return f"revision {self.revision} of {self.match}"
