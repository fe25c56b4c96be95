"""Where exchanges begin, and which rows are filed under which."""

import unittest

from jurata_core.adjudication import adjudicate
from jurata_core.adjudication.exchanges import ExchangeBook
from jurata_core.adjudication.places import PLACE_OF, STANDING
from jurata_core.audit.entries import awarded
from jurata_core.match_log import read_log
from jurata_core.review.seen import Seen

from .making import at, log, seen, start

GUARD, SIDE = PLACE_OF["guard", "a"], PLACE_OF["side", "a"]


def scored(*observations):
    return adjudicate(read_log(log(*observations)))


class Book(unittest.TestCase):
    def test_one_ends_where_the_next_begins(self):
        book = ExchangeBook()
        book.begin(0, 0, STANDING)
        book.begin(5_000, 4_000, GUARD)
        book.move(SIDE)
        first, second = book.close(9_000, 8_000)
        self.assertEqual((first.start, first.end, first.clock_end), (0, 5_000, 4_000))
        self.assertEqual((second.start, second.end, second.first, second.last), (5_000, 9_000, GUARD, SIDE))

    def test_one_at_the_same_moment_that_holds_nothing_is_taken_over(self):
        book = ExchangeBook()
        book.begin(0, 0, STANDING)
        book.begin(0, 0, GUARD, "First grip", by_hand=True)
        (only,) = book.close(1_000, 1_000)
        self.assertEqual((only.first, only.title, only.by_hand), (GUARD, "First grip", True))

    def test_one_that_holds_a_row_is_not(self):
        book = ExchangeBook()
        book.begin(0, 0, STANDING)
        book.file(awards=1)
        book.begin(0, 0, GUARD)
        self.assertEqual([one.awards for one in book.close(1_000, 1_000)], [1, 0])

    def test_what_came_before_the_first_is_filed_under_it_and_does_not_keep_it(self):
        book = ExchangeBook()
        book.file(awards=1, missed=2)
        book.begin(0, 0, STANDING)
        book.begin(0, 0, GUARD)
        (only,) = book.close(1_000, 1_000)
        self.assertEqual((only.first, only.awards, only.missed), (GUARD, 1, 2))

    def test_a_book_that_went_back_to_a_point_goes_its_own_way(self):
        book = ExchangeBook()
        book.begin(0, 0, STANDING)
        point = book.point()
        book.file(missed=1)
        book.begin(2_000, 2_000, GUARD)
        back = book.back_to(point)
        back.file(awards=1)
        self.assertEqual([(one.awards, one.missed) for one in back.close(3_000, 3_000)], [(1, 0)])
        self.assertEqual([(one.awards, one.missed) for one in book.close(3_000, 3_000)], [(0, 1), (0, 0)])

    def test_going_on_as_another_takes_over_what_came_after_the_point(self):
        whole = ExchangeBook()
        whole.begin(0, 0, STANDING)
        point = whole.point()
        whole.begin(2_000, 2_000, GUARD)
        whole.begin(4_000, 4_000, STANDING)
        changed = ExchangeBook()
        changed.begin(0, 0, GUARD)
        changed.begin(0, 0, STANDING)
        self.assertEqual(changed.going_on_as(point, whole).close(5_000, 5_000), whole.close(5_000, 5_000))


class Filed(unittest.TestCase):
    def test_an_award_at_a_boundary_is_of_the_exchange_that_ends_there(self):
        # Held for three seconds to the moment: paid first, then the top changes.
        verdict = scored(start(), at(10, "guard", "a"), at(13, "guard", "b"), at(20, "standing"))
        sums = [(exchange.start, [row.reason.code for row in awards]) for exchange, awards, _ in verdict.by_exchange()]
        self.assertEqual(sums, [(0, []), (10_000, ["held"]), (13_000, ["held"]), (20_000, [])])
        self.assertEqual(verdict.exchanges_of_awards(), [1, 2])
        self.assertEqual([entry.exchange for entry in awarded(verdict)], [1, 2])

    def test_a_miss_is_filed_where_it_was_lost(self):
        verdict = scored(start(), at(10, "guard", "a"), at(11, "standing"), at(20, "guard", "a"))
        self.assertEqual(verdict.exchanges_of_missed(), [1])
        self.assertEqual(Seen(read_log(log()), verdict).exchange_of(verdict.missed[0]), 1)

    def test_without_an_exchange_rows_are_told_all_the_same(self):
        verdict = scored(*(seen(t, "foul", by=by, foul="stalling") for t, by in ((1, "a"), (2, "a"), (3, "b"))))
        self.assertEqual(verdict.exchanges, ())
        self.assertEqual(verdict.exchanges_of_awards(), [0] * len(verdict.ledger))
        self.assertEqual(len(awarded(verdict)), len(verdict.ledger))


if __name__ == "__main__":
    unittest.main()
