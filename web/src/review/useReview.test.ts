import { expect, it } from "vitest";
import type { Review } from "../api/client";
import { chainsOf } from "./useReview";

const error = (key: string) => ({ key });
const chain = (members: string[], cost: string) => ({ members, otherwise: null, cost, accepted: false, in_report: [] });
const review = {
  found: [error("a"), error("b"), error("c")],
  chains: [chain(["c"], "Cost: 2 points."), chain(["a", "b"], ""), chain(["gone"], "")],
} as unknown as Review;

it("chains stand in the order of the server, each with its root and what came of it", () => {
  expect(chainsOf(review).map((one) => [one.root.key, one.later.map((later) => later.key), one.cost])).toEqual([
    ["c", [], "Cost: 2 points."],
    ["a", ["b"], ""],
  ]);
});
