import { describe, expect, it } from "vitest";
import type { Desk, Observation } from "../api/client";
import { placeAt } from "./place";

const row = (t: number, position: string, top: "a" | "b" | null = null) => ({ t, position, top });
const position = (id: string, t: number, name: string, top?: "a" | "b") =>
  ({ id, t, kind: "position", position: name, ...(top ? { top } : {}) }) as Observation;
const change = (key: string, body: Observation | null) => ({ key, body, base: 0 });
const desk = (positions: object[], observations: object[] = [], clock: object[] = [{ t: 0 }]) =>
  ({ verdict: { positions, clock }, observations }) as unknown as Desk;

describe("where somebody is", () => {
  const scored = desk([row(0, "standing"), row(3, "guard", "a"), row(9, "scramble")]);
  it.each([
    [2, "a", "standing"],
    [3, "a", "guard top"],
    [5, "b", "guard bottom"],
    [10, "a", "scramble"],
  ] as const)("at %s", (t, side, place) => {
    expect(placeAt(scored, [], t, side)).toBe(place);
  });

  it("is standing after a standing restart, whatever was logged before it", () => {
    const restarted = desk(
      [row(0, "standing"), row(3, "back", "a"), row(20, "standing")],
      [position("one", 3, "back", "a"), { id: "two", t: 20, kind: "clock", action: "start" }],
    );
    expect(placeAt(restarted, [], 21, "a")).toBe("standing");
    expect(placeAt(restarted, [], 19, "a")).toBe("back top");
  });

  it("follows what is not sent yet", () => {
    const start = { id: "new", t: 20, kind: "clock", action: "start" } as Observation;
    expect(placeAt(scored, [change("new", start)], 21, "a")).toBe("standing");
    expect(placeAt(scored, [change("new", { ...start, restart: "same" } as Observation)], 21, "a")).toBe("scramble");
    expect(placeAt(scored, [change("new", position("new", 12, "mount", "b"))], 21, "a")).toBe("mount bottom");
    const placed = { ...start, restart: "placed", position: "side", top: "b" } as Observation;
    expect(placeAt(scored, [change("new", placed)], 21, "b")).toBe("side top");
  });

  it("stays where it was logged before the clock's first start", () => {
    const waiting = desk([], [position("one", 0, "guard", "a")], []);
    const start = { id: "new", t: 2, kind: "clock", action: "start" } as Observation;
    expect(placeAt(waiting, [change("one", position("one", 0, "guard", "a")), change("new", start)], 3, "a")).toBe("guard top");
    const later = { ...start, id: "later", t: 9 } as Observation;
    expect(placeAt(waiting, [change("new", start), change("later", later)], 10, "a")).toBe("standing");
  });

  it("forgets what is changed or deleted and not sent yet", () => {
    const stored = desk([row(0, "standing"), row(3, "guard", "a")], [position("one", 3, "guard", "a")]);
    expect(placeAt(stored, [change("one", null)], 5, "a")).toBe("standing");
    expect(placeAt(stored, [change("one", position("one", 8, "guard", "a"))], 5, "a")).toBe("standing");
  });
});
