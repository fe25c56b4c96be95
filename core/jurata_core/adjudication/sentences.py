"""Every reason with its sentence for a coach. A reason without a row here cannot be given."""

from __future__ import annotations

import re
from collections.abc import Mapping
from functools import cache
from string import Formatter
from typing import Any

from ..times import minutes, span

WHO = {"a": "the athlete", "b": "the opponent", None: "nobody"}

_WHO = re.compile(r"\b[Tt]he (athlete|opponent)\b")


def named(text: str, athlete: str, opponent: str) -> str:
    """A sentence of the core with the names of the two in it; never for a text that somebody wrote."""
    names = {"athlete": athlete, "opponent": opponent}
    return _WHO.sub(lambda found: names[found.group(1)], text)


CLAIMS = {
    "takedown": "takedown",
    "double_pull_top": "top from the double pull",
    "sweep": "sweep",
    "guard_pass": "guard pass",
    "knee_on_belly": "knee on belly",
    "mount": "mount",
    "back": "back control",
    "submission": "submission",
    "reversal": "reversal",
}

PLACES = {
    "standing": "standing",
    "double_pull": "both seated",
    "scramble": "a scramble",
    "guard": "the guard",
    "turtle": "the turtle",
    "side": "side control",
    "knee_on_belly": "knee on belly",
    "mount": "the mount",
    "back": "the back with both hooks",
    "back_one_hook": "the back with one hook",
    "entangled": "tied-up legs",
}

FOULS = {
    "stalling": "stalling",
    "fleeing": "fleeing",
    "grip": "an illegal grip",
    "conduct": "conduct",
    "severe": "a severe foul",
    "double_pull": "staying seated together too long",
}

ENDINGS = {
    "position": "then it was {place:place}",
    "restart": "then the referee restarted them standing",
    "time": "then time ran out",
}

RECOUNTS = {
    None: "",
    "submission": " The count began only when the submission was cleared, at {counted:clock}.",
    "restart": " The clock was stopped meanwhile, so the count began again at {counted:clock}.",
    "passing": " It was shaken loose in between, so the count began again at {counted:clock}.",
}

SENTENCES = {
    # Points and advantages for what was held.
    "held": "{claim:Claim}: {to:who} got there at {opened:clock} and held it for {needed:span}: {n:award}.{recount}",
    "held_advantage": "{claim:Claim}: {to:who} came up first at {opened:clock} and held it for {needed:span}; "
    "after a double pull this ruleset pays an advantage.{recount}",
    "lost": "{claims}: reached and not held ({held:span} of {needed:span}), {ending}: an advantage.",
    "near": "{claim:Claim}: judged by the scorer to have very nearly come off: an advantage.",
    "close_submission": "{technique}: {to:who} had it close: an advantage.",
    # Penalties and what they lead to.
    "penalty": "{foul:foul}: penalty number {count} against {to:who}.",
    "rung_advantage": "Penalty number {count} of {other:who} gives {to:who} an advantage.",
    "rung_two_points": "Penalty number {count} of {other:who} gives {to:who} two points.",
    "rung_minus_point": "Penalty number {count} takes a point from {to:who}.",
    "fled": "{other:Who} fled from a {avoiding:claim}: two points to {to:who}.",
    "pull_cost": "{to:Who} pulled guard while points were open: {n:award}.",
    "ruling": "Ruling of the coach: {n:award} to {to:who}.",
    # Claims that were not paid.
    "missed": "{claim:Claim} by {to:who}: held {held:span} of {needed:span}, {ending}.{recount}",
    "missed_under_submission": "{claim:Claim} by {to:who}: the count never began, because {other:who} had a submission "
    "on, {ending}.",
    "open": "{claim:Claim} by {to:who}: held {held:span} of {needed:span} where the log stops.",
    "not_open_yet": "{claim:Claim} by {to:who}: points open only at {opening:clock}, so it pays nothing.",
    "moved_on": "{claim:Claim} by {to:who}: left after {held:span} of {needed:span} for something higher; "
    "that gives nothing.",
    "dropped_stop": "{claim:Claim} by {to:who}: dropped, because the referee stopped them for {technique}.",
    "dropped_fled": "{claim:Claim} by {to:who}: replaced by the two points for fleeing from it.",
    "match_over": "{claim:Claim} by {to:who}: the match ended first; a match that ends this way pays nothing for it.",
    "reversal": "{to:Who} came on top from under {place:place}: that is an escape, not a sweep, and pays nothing.",
    "pulled": "{to:Who} is on top because {other:who} pulled guard: no takedown.",
    "paid_before": "{claim:Claim} by {to:who}: already paid in this spell of control; it pays again only after the "
    "guard or the feet were recovered.",
    # Illegal techniques.
    "illegal_disqualify": "{because} The match ends for {by:who}.",
    "illegal_warned": "{because} Warning {count} of {limit} for {by:who}; number {limit} ends the match.",
    "illegal_stop": "{because} {by:Who} loses what was being counted.",
    "illegal_finish": "{because} A match can't be won with it: {by:who} is disqualified.",
    # Results.
    "result_points": "{winner:Who} won on points.",
    "result_advantages": "{winner:Who} won on advantages, level on points.",
    "result_penalties": "{winner:Who} won on fewer penalties, all else level.",
    "result_decision": "{winner:Who} won by decision, all else level.",
    "result_draw": "Time ran out without a submission: a draw.",
    "result_undecided": "All level, and no decision logged.",
    "result_submission": "{winner:Who} won by {technique}.",
    "result_withdrawal": "{winner:Who} won: the other side withdrew.",
    "result_disqualification": "{cause}",
    "result_unfinished": "No end is logged yet.",
    "cause_illegal": "{because} {by:Who} is disqualified.",
    "cause_ladder": "{by:Who} is disqualified with penalty number {count}.",
    "cause_both": "Both are disqualified.",
    "cause_severe": "{by:Who} is disqualified for a severe foul.",
    "cause_fled": "{by:Who} is disqualified for fleeing from a submission.",
    "cause_logged": "{by:Who} is disqualified.",
    # Warnings.
    "position_while_stopped": "{place:Place} was logged while the clock was stopped: ignored.",
    "pull_while_stopped": "A pull was logged while the clock was stopped: ignored.",
    "pull_not_from_standing": "A pull was logged that did not come from standing: ignored.",
    "pull_again": "A further pull was logged before any position: ignored.",
    "pull_both_caught": "A pull by both cannot be caught: counted as a pull by both.",
    "start_while_running": "A start was logged while the clock was running: ignored.",
    "stop_while_stopped": "A stop was logged while the clock was stopped: ignored.",
    "after_end": "{kind} was logged after the match was over: ignored.",
    "past_duration": "The match clock runs {over:span} past the length of the match: is a stop or the end missing?",
    "near_already_shown": "Nearly a {claim:claim} was logged within 5 s of a {claim:claim} that was lost anyway: "
    "is it the same one?",
    "no_advantages": "{ruleset} has no advantages: none is given.",
    "unknown_technique": "The name {technique} is not in the catalogue{nearest}: taken as legal.",
    "unknown_setting": "The name {setting} is not a setting of a ruleset: ignored.",
    "odd_division": "{why} Events differ: it is scored as it stands.",
    "never_started": "The clock was never started.",
}

_AMOUNTS = {
    "points": ("point", "points"),
    "advantages": ("advantage", "advantages"),
    "penalties": ("penalty", "penalties"),
}


def amount(n: int, kind: str) -> str:
    """``2 points``, ``1 advantage``."""
    one, many = _AMOUNTS[kind]
    return f"{n} {one if abs(n) == 1 else many}"


def _worded(value: Any, form: str, tally: str) -> str:
    """A fact as a coach reads it: ``{held:span}``, ``{to:who}``, ``{opened:clock}``."""
    if form in ("who", "Who"):
        return _cased(WHO[value], form)
    if form in ("claim", "Claim"):
        return _cased(CLAIMS[value], form)
    if form in ("place", "Place"):
        return _cased(PLACES[value], form)
    if form == "foul":
        return _cased(FOULS[value], "Foul")
    if form == "clock":
        return minutes(value)
    if form == "span":
        return span(value)
    if form == "award":
        return amount(value, tally).replace("-", "minus ")
    return _cased(str(value), form) if form else str(value)


def _cased(words: str, form: str) -> str:
    return words[:1].upper() + words[1:] if form[0].isupper() else words


@cache
def _parts(template: str) -> tuple[tuple[str, str | None, str], ...]:
    """A template taken apart once: (text before, name of the fact, its form)."""
    return tuple((before, name, form or "") for before, name, form, _ in Formatter().parse(template))


def told(template: str, facts: Mapping[str, Any], tally: str = "points") -> str:
    """A template with its facts filled in, each as its form asks."""
    said = []
    for before, name, form in _parts(template):
        said.append(before)
        if name is not None:
            said.append(_worded(facts[name], form, tally))
    return "".join(said)


def sentence(reason: str, facts: Mapping[str, Any]) -> str:
    """The sentence of a reason. Facts ``ending`` and ``recount`` name phrases of their own tables."""
    kind = facts.get("kind")
    tally = kind if kind in _AMOUNTS else "points"
    filled = dict(facts)
    if "ending" in facts:
        filled["ending"] = told(ENDINGS[facts["ending"]], facts, tally)
    if "recount" in facts:
        filled["recount"] = told(RECOUNTS[facts["recount"]], facts, tally)
    if "claims" in facts:
        filled["claims"] = _cased(" and ".join(CLAIMS[claim] for claim in facts["claims"]), "Claims")
    if "cause" in facts:
        filled["cause"] = sentence(facts["cause"], {key: value for key, value in facts.items() if key != "cause"})
    return told(SENTENCES[reason], filled, tally)
