"""Bad input is refused with the field's name: no server error, and nothing is kept of it."""

import json

from matches.models import Match, Observation
from reviews.tests.base import LOG, ReviewCase

DEEP = "[" * 100_000


class BadInput(ReviewCase):
    def put(self, text, key="new"):
        address = f"/api/matches/{self.match_id}/observations/{key}"
        return self.client.generic("PUT", address, text, content_type="application/json")

    def test_what_no_database_holds_is_refused_by_its_name(self):
        table = {
            '{"t": 1, "kind": "exchange", "title": "a\\u0000b"}': "title",
            '{"t": 1, "kind": "exchange", "title": "\\ud800"}': "title",
            '{"t": 1e999, "kind": "exchange"}': "t",
            '{"t": 1, "kind": "exchange", "more": 1e999}': "more",
            '{"t": 1, "kind": "exchange", "more": ' + "9" * 30 + "}": "more",
            '{"t": ' + "9" * 5000 + ', "kind": "exchange"}': "body",
            '{"t": 1, "kind": "exchange", "more": ' + "[" * 60 + "]" * 60 + "}": "more" + "[0]" * 39,
            '{"t": 1, "kind": "exchange", "more": ' + DEEP: "body",
            '{"t": 1, "t": 2, "kind": "exchange"}': "body",
            '{"t": NaN, "kind": "exchange"}': "body",
            '{"t": 1, "kind": "exchange", "m\\u0000": 1}': "body",
            "nonsense": "body",
        }
        before = Observation.objects.count()
        for text, path in table.items():
            with self.subTest(text[:60]):
                answer = self.put(text)
                self.assertEqual(
                    (answer.status_code, [fault["path"] for fault in answer.json()["faults"]]), (400, [path])
                )
        self.assertEqual(Observation.objects.count(), before)

    def test_keys(self):
        body = json.dumps({"t": 1, "kind": "exchange"})
        for key, status in {"k" * 65: 400, "a%0Ab": 400, "a%00b": 404, "k" * 64: 200}.items():
            with self.subTest(key[:10]):
                answer = self.put(body, key)
                self.assertEqual(answer.status_code, status, answer.content)
                if status == 400:
                    self.assertEqual(answer.json()["faults"][0]["path"], "id")

    def test_ids_of_a_log_that_is_imported(self):
        table = {"x" * 65: ["log.observations[1].id"], "a\nb": ["log.observations[1].id"], 7: []}
        for name, paths in table.items():
            with self.subTest(str(name)[:9]):
                start, *more = LOG["observations"]
                answer = self.set_up(log={**LOG, "observations": [start, {**more[0], "id": name}, *more[1:]]})
                self.assertEqual([fault["path"] for fault in answer.json().get("faults", [])], paths)

    def test_addresses(self):
        for path in (
            "/api/matches/%00",
            "/api/clips/x%ff",
            "/api/rulesets?a=%00",
            f"/api/matches/{self.match_id}/outlook?t=1e999",
        ):
            with self.subTest(path):
                self.assertIn(self.client.get(path).status_code, (400, 404))

    def test_numbers_in_headers_and_queries(self):
        digits = "9" * 5000
        match = f"/api/matches/{self.match_id}"
        self.assertEqual(self.client.get(f"{match}/outlook?t={digits}").status_code, 400)
        key = f"{match}/observations/n?have={digits}&based_on={digits}"
        body = {"t": 1, "kind": "exchange"}
        self.assertEqual(self.client.put(key, body, content_type="application/json").status_code, 200)

    def test_a_log_of_the_stated_size_is_taken(self):
        """Three megabytes, of the 64 that a log may have: more than a server takes that nobody has set."""
        note = "x" * 1000
        rows = [{"t": n / 10, "kind": "exchange", "note": note} for n in range(3_000)]
        answer = self.set_up(log={**LOG, "observations": [*LOG["observations"][:1], *rows]})
        self.assertEqual(answer.status_code, 201, answer.content[:300])
        self.assertEqual(Match.objects.get(pk=answer.json()["id"]).observations.count(), 3_001)
