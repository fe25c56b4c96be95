import { expect, it } from "vitest";
import type { Review } from "../api/client";
import { chainsOf } from "./useReview";

const error = (key: string, since: number) => ({ key, since });
const review = {
  found: [error("a", 5), error("b", 9), error("c", 2)],
  chains: [
    { members: ["a", "b"], otherwise: null, cost: "2 points" },
    { members: ["c"], otherwise: null, cost: "nothing" },
    { members: ["gone"], otherwise: null, cost: "nothing" },
  ],
} as unknown as Review;

it("chains are in order of time as long as nothing is known of their weight", () => {
  expect(chainsOf(review, undefined).map((chain) => [chain.root.key, chain.later.map((one) => one.key), chain.lost])).toEqual([
    ["c", [], null],
    ["a", ["b"], null],
  ]);
});

it("then what would have changed most is first, with what all its links swung together", () => {
  const swings = { a: { lost: 0.7 }, b: { lost: 0.5 }, c: { lost: 0.1 } };
  expect(chainsOf(review, { order: ["a", "c"], swings }).map((chain) => [chain.root.key, chain.lost])).toEqual([
    ["a", 1],
    ["c", 0.1],
  ]);
});
