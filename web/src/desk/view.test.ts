import { expect, it } from "vitest";
import { moved, PLAIN, transformOf, turned, whole, zoomed } from "./view";

it("enlarges about the point under the pointer", () => {
  const at = { x: 0.25, y: -0.1 };
  const near = zoomed(PLAIN, 2, at);
  // A point of the picture stands where it stood: (at - x) / zoom is the same before and after.
  expect((at.x - near.x) / near.zoom).toBeCloseTo(at.x);
  expect((at.y - near.y) / near.zoom).toBeCloseTo(at.y);
});

it("is never smaller than the stage, nor larger than six times it", () => {
  expect(zoomed(PLAIN, 0.5)).toEqual(PLAIN);
  expect(zoomed(zoomed(PLAIN, 5), 5).zoom).toBe(6);
});

it("can't be pushed off the stage", () => {
  expect(moved(PLAIN, 0.4, 0.4)).toEqual(PLAIN);
  expect(moved(zoomed(PLAIN, 2), 9, -9)).toMatchObject({ x: 0.5, y: -0.5 });
});

it("fits the picture into the stage when it lies on its side", () => {
  expect(transformOf(PLAIN, 400, 200)).toBe("translate(0px, 0px) scale(1) rotate(0deg)");
  expect(transformOf(turned(PLAIN), 400, 200)).toBe("translate(0px, 0px) scale(0.5) rotate(90deg)");
});

it("is mirrored after a full turn, and as it was after two", () => {
  const round = (view: typeof PLAIN) => [1, 2, 3, 4].reduce(turned, view);
  expect(round(PLAIN)).toEqual({ ...PLAIN, mirrored: true });
  expect(transformOf(round(PLAIN), 400, 200)).toBe("translate(0px, 0px) scale(1) rotate(0deg) scaleX(-1)");
  expect(whole(zoomed(round(PLAIN), 3))).toEqual(round(PLAIN));
  expect(round(round(PLAIN))).toEqual(PLAIN);
});
