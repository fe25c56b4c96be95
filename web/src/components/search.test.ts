import { describe, expect, it } from "vitest";
import { barredFirst, familyOf, plain, searcher } from "./search";

const row = (id: string, status: string, ...aliases: string[]) => ({ id, name: id.replace("-", " "), aliases, status });
const ALL = [
  row("toe-hold", "illegal"),
  row("top-hold", "legal"),
  row("heel-hook", "illegal", "heel hooks"),
  row("armbar", "legal", "arm bar"),
];

describe("names", () => {
  const search = searcher(ALL);
  const ids = (typed: string) => search(typed, 3, undefined, barredFirst).map((one) => one.id);

  it("are compared without case, accents or marks", () => {
    expect(plain("Mão de-Vaca")).toBe("maodevaca");
  });
  it.each([
    ["arm", "armbar"],
    ["Arm Bar", "armbar"],
    ["hook", "heel-hook"],
    ["heel hok", "heel-hook"],
  ])("finds by a beginning, an alias, a part or a misspelling: %s", (typed, first) => {
    expect(ids(typed)[0]).toBe(first);
  });
  it("puts what is barred first among what is spelled alike", () => {
    expect(ids("tow hold")).toEqual(["toe-hold", "top-hold"]);
    expect(search("tow hold", 3, undefined, (one, other) => -barredFirst(one, other))[0]?.id).toBe("top-hold");
  });
  it("knows a word for a family, and its plural, with what is barred first", () => {
    const legs = [
      { ...row("foot-lock", "legal"), meant_by: ["leg lock"] },
      { ...row("kneebar", "illegal"), meant_by: ["leg lock"] },
    ];
    const ids = (typed: string) => familyOf(legs, typed).map((one) => one.id);
    expect([ids("Leg lock"), ids("leg-locks"), ids("leg")]).toEqual([["kneebar", "foot-lock"], ["kneebar", "foot-lock"], []]);
  });
});
