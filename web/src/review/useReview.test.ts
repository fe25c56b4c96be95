import { expect, it } from "vitest";
import type { Review } from "../api/client";
import { chainsOf } from "./useReview";

const error = (key: string) => ({ key });
const chain = (members: string[], lost: number) => ({ members, otherwise: null, cost: "nothing", lost, accepted: false });
const review = {
  found: [error("a"), error("b"), error("c")],
  chains: [chain(["c"], 0.3), chain(["a", "b"], 0.1), chain(["gone"], 0)],
} as unknown as Review;

it("chains stand in the order of the server, each with its root and what came of it", () => {
  expect(chainsOf(review).map((one) => [one.root.key, one.later.map((later) => later.key), one.lost])).toEqual([
    ["c", [], 0.3],
    ["a", ["b"], 0.1],
  ]);
});
