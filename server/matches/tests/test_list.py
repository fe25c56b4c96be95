"""The list of matches: a page at a time, searched, narrowed down and put in order by the database."""

from __future__ import annotations

from roster.models import Athlete

from .base import LOG, CoachCase

LOST = {
    **LOG,
    "observations": [
        {"t": 0, "kind": "clock", "action": "start"},
        {"t": 9, "kind": "position", "position": "side", "top": "b"},
        {"t": 300, "kind": "end", "how": "time"},
    ],
}
LEVEL = {**LOG, "observations": [LOG["observations"][0], LOG["observations"][2]]}
OPEN = {**LOG, "observations": LOG["observations"][:2]}


class TheList(CoachCase):
    def listed(self, **asked):
        answer = self.client.get("/api/matches", asked)
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()

    def opponents(self, **asked):
        return [row["opponent"] for row in self.listed(**asked)["results"]]

    def test_pages(self):
        for number in range(5):
            self.set_up(log=LOG, opponent=f"Opponent {number}", date=f"2026-05-0{number + 1}")
        first = self.listed(page_size=2)
        self.assertEqual((first["count"], len(first["results"]), first["previous"]), (5, 2, None))
        self.assertEqual(self.opponents(page_size=2), ["Opponent 4", "Opponent 3"])
        self.assertEqual(self.opponents(page_size=2, page=3), ["Opponent 0"])
        self.assertIsNone(self.listed(page_size=2, page=3)["next"])
        self.assertEqual(self.client.get("/api/matches", {"page": 9}).status_code, 404)

    def test_search(self):
        other = Athlete.objects.create(club=self.club, name="Runa Holt", birth_year=2001, belt="blue")
        self.set_up(log=LOG, opponent="Cleo Marr", event="Spring cup")
        self.set_up(log=LOG, opponent="Dana Voss", event="Harbour open", athlete=other.pk)
        for words, found in (
            ("marr", ["Cleo Marr"]),
            ("HARBOUR", ["Dana Voss"]),
            ("runa", ["Dana Voss"]),
            ("runa spring", []),
            ("%", []),
            ("", ["Dana Voss", "Cleo Marr"]),
        ):
            with self.subTest(words):
                self.assertEqual(self.opponents(search=words), found)

    def test_filters(self):
        for name, log in (("Won", LOG), ("Lost", LOST), ("Level", LEVEL), ("Open", OPEN)):
            self.set_up(log=log, opponent=name)
        empty = {"ruleset": "late-points", "duration_ms": 300_000, "age": 24, "belt": "brown", "attire": "nogi"}
        self.set_up(opponent="Empty", **empty)
        for asked, found in (
            ({"result": "won"}, {"Won"}),
            ({"result": "lost"}, {"Lost"}),
            ({"result": "level"}, {"Level"}),
            ({"result": "open"}, {"Open", "Empty"}),
            ({"scored": "true"}, {"Won", "Lost", "Level", "Open"}),
            ({"scored": "false"}, {"Empty"}),
            ({"belt": "brown"}, {"Empty"}),
            ({"attire": "gi", "result": "won"}, {"Won"}),
            ({"ruleset": "late-points"}, {"Empty"}),
            ({"athlete": self.athlete.pk}, {"Won", "Lost", "Level", "Open", "Empty"}),
        ):
            with self.subTest(asked):
                self.assertEqual(set(self.opponents(**asked)), found)
        for asked in ({"result": "lucky"}, {"athlete": 10**9}):
            self.assertEqual(self.client.get("/api/matches", asked).status_code, 400, asked)

    def test_a_filter_knows_what_was_just_logged(self):
        match = self.set_up(log=LOST).json()["id"]
        self.assertEqual(self.listed(result="won")["count"], 0)
        self.call(
            "put", f"matches/{match}/observations/new",
            {"t": 20, "kind": "ruling", "to": "a", "points": 9},
        )  # fmt: skip
        self.assertEqual(self.listed(result="won")["count"], 1)

    def test_order(self):
        for name, date in (("Cleo", "2026-03-01"), ("Abel", "2026-05-01"), ("Bryn", "2026-04-01")):
            self.set_up(log=LOG, opponent=name, date=date)
        self.assertEqual(self.opponents(ordering="opponent"), ["Abel", "Bryn", "Cleo"])
        self.assertEqual(self.opponents(ordering="date"), ["Cleo", "Bryn", "Abel"])
        self.assertEqual(self.opponents(ordering="owner"), ["Abel", "Bryn", "Cleo"])  # no order of the list: the latest

    def test_somebody_else_s_matches_are_in_no_list(self):
        self.set_up(log=LOG)
        self.client.force_login(self.other)
        self.assertEqual(self.listed()["count"], 0)
        self.assertEqual(self.client.get("/api/matches", {"athlete": self.athlete.pk}).status_code, 400)
