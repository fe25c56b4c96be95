"""Nothing that comes in is without an end: bodies, lists and texts, and what large ones cost."""

from __future__ import annotations

from typing import Any

from django.test import SimpleTestCase
from drf_spectacular.generators import SchemaGenerator

from config.parsing import LOG_BYTES
from config.sizes import LARGEST_OBSERVATION, LARGEST_RULESET, LONGEST_TEXT
from matches.models import Match
from matches.tests.base import LOG, CoachCase

BOUNDED_FORMATS = {"uuid", "date", "date-time", "time", "email", "binary"}


class Published(SimpleTestCase):
    """What the schema says of every body."""

    def setUp(self):
        found = SchemaGenerator().get_schema(request=None, public=True)
        self.components = found["components"]["schemas"]
        self.bodies = {
            f"{method} {path}": operation["requestBody"]
            for path, methods in found["paths"].items() for method, operation in methods.items()
            if "requestBody" in operation
        }  # fmt: skip
        self.assertGreater(len(self.bodies), 40)

    def endless(self, schema: dict[str, Any], at: str, within: tuple[str, ...] = ()) -> list[str]:
        """Where in a schema there is a list or a text that may be of any length."""
        if "$ref" in schema:
            name = schema["$ref"].rsplit("/", 1)[1]
            return [] if name in within else self.endless(self.components[name], at, (*within, name))
        kinds = schema.get("type")
        kinds = kinds if isinstance(kinds, list) else [kinds]
        found = []
        bounded = {"maxLength", "enum", "const", "pattern"} & set(schema) or schema.get("format") in BOUNDED_FORMATS
        if "string" in kinds and not bounded:
            found.append(at)
        if "array" in kinds:
            found += [] if "maxItems" in schema else [f"{at}[]"]
            found += self.endless(schema["items"], f"{at}[]", within)
        for one in (*schema.get("oneOf", ()), *schema.get("anyOf", ()), *schema.get("allOf", ())):
            found += self.endless(one, at, within)
        for name, one in schema.get("properties", {}).items():
            found += self.endless(one, f"{at}.{name}", within)
        return found

    def test_every_list_and_text_has_an_end(self):
        for name, body in self.bodies.items():
            for kind, content in body["content"].items():
                with self.subTest(name, kind=kind):
                    self.assertEqual(self.endless(content["schema"], ""), [])

    def test_every_body_of_json_has_one(self):
        for name, body in self.bodies.items():
            if "application/json" in body["content"]:
                with self.subTest(name):
                    self.assertLessEqual(body["x-most-bytes"], LOG_BYTES)


class Taken(CoachCase):
    def refused(self, answer, status=400):
        self.assertEqual(answer.status_code, status, answer.content[:200])
        return [fault["path"] for fault in answer.json()["faults"]]

    def test_a_body_is_read_up_to_what_its_route_takes(self):
        large = {"name": "x" * 200_000, "birth_year": 2001, "belt": "blue"}
        self.refused(self.call("post", "athletes", large), 413)
        self.refused(self.call("post", "auth/browser/v1/auth/login", {"username": "x" * 2_000_000}), 413)
        self.refused(self.call("post", "matches", {"log": "x" * LOG_BYTES}), 413)

    def test_texts_and_unknown_fields_of_an_observation_end(self):
        found = self.match()
        self.assertEqual(self.put(found, "a", t=1, kind="exchange", note="x" * LONGEST_TEXT).status_code, 200)
        self.assertEqual(self.refused(self.put(found, "b", t=1, kind="exchange", note="x" * 2_001)), ["note"])
        self.assertEqual(self.refused(self.put(found, "b", t=1, kind="exchange", more=["x"] * 9_000)), [""])
        long = [{"t": 1, "kind": "exchange", "note": "x" * 2_001}, {"t": 1, "kind": "exchange", "x": ["y"] * 9_000}]
        refused = self.refused(self.set_up(log={**LOG, "observations": [*LOG["observations"][:1], *long]}))
        self.assertEqual(refused, ["log.observations[1].note", "log.observations[2]"])
        self.assertLess(LARGEST_OBSERVATION, 20_000)

    def test_rulesets_end(self):
        large = {"extends": "full-points", "title": "Ours", "more": "x" * LARGEST_RULESET}
        self.assertEqual(self.refused(self.set_up(log={**LOG, "ruleset": large})), ["ruleset", "ruleset.more"])
        setting = {"duration_ms": 60_000, "age": 24, "belt": "blue", "attire": "gi", "ruleset": large}
        self.assertEqual(self.refused(self.set_up(**setting)), ["ruleset"])
        self.assertEqual(self.refused(self.call("post", "house-rules", {"rules": large})), ["rules"])
        self.assertEqual(Match.objects.count(), 0)

    def test_parts_end(self):
        answer = self.call("put", f"matches/{self.match().pk}/parts", {"parts": [{"clip": None, "start": 0}] * 2_000})
        self.assertEqual(self.refused(answer), ["parts"])
