// @vitest-environment jsdom
import { act, cleanup, renderHook } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { afterEach, expect, it } from "vitest";
import { briefingOf, rulebookOf, useAsked, useOther } from "./asked";

afterEach(cleanup);

function open(address: string) {
  const wrapper = ({ children }: { children: ReactNode }) => <MemoryRouter initialEntries={[address]}>{children}</MemoryRouter>;
  return renderHook(
    () => {
      const [asked, ask] = useAsked();
      const [other, compare] = useOther(asked);
      return { asked, ask, other, compare };
    },
    { wrapper },
  ).result;
}

const BLUE = { age: 24, belt: "blue", attire: "nogi", ruleset: "late-points", athlete: "Ada" } as const;

it("reads a division out of the address, and takes the usual one for what is missing or broken", () => {
  expect(open("/rulebook?age=24&belt=blue&attire=nogi&ruleset=late-points&athlete=Ada").current.asked).toEqual(BLUE);
  expect(open("/rulebook?age=old").current.asked).toMatchObject({ age: 25, belt: "white", attire: "gi", ruleset: "full-points" });
});

it("changes a part of it", () => {
  const page = open("/rulebook?age=24&belt=blue");
  act(() => page.current.ask({ attire: "nogi" }));
  expect(page.current.asked).toMatchObject({ age: 24, belt: "blue", attire: "nogi" });
});

it("compares with another division, which begins as the first, and lets go of it", () => {
  const page = open("/rulebook?age=24&belt=blue");
  expect(page.current.other).toBeNull();
  act(() => page.current.compare({ belt: "brown" }));
  expect(page.current.other).toMatchObject({ age: 24, belt: "brown" });
  act(() => page.current.compare({ age: 31 }));
  expect(page.current.other).toMatchObject({ age: 31, belt: "brown" });
  act(() => page.current.compare(null));
  expect([page.current.other, page.current.asked.belt]).toEqual([null, "blue"]);
});

it("makes addresses that are read back", () => {
  expect(open(rulebookOf(BLUE, "Ada")).current.asked).toEqual(BLUE);
  const changed = { extends: "full-points", hold_seconds: 4 };
  expect(JSON.parse(open(rulebookOf({ ...BLUE, ruleset: changed }, "")).current.asked.ruleset)).toEqual(changed);
  const query = new URL(briefingOf(BLUE, { ...BLUE, belt: "white" }, "pdf"), "http://here").searchParams;
  expect([query.get("form"), query.get("belt"), query.get("other_belt")]).toEqual(["pdf", "blue", "white"]);
});
