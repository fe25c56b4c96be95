import { useSearchParams } from "react-router";
import type { Match } from "../api/client";

/** A division and a ruleset, as they stand in the address of the page. */
export interface Asked {
  age: number;
  belt: Match["belt"];
  attire: Match["attire"];
  /** A preset's id, or a changed one as JSON. */
  ruleset: string;
  /** Whom it is for, where an athlete was chosen. */
  athlete: string;
}

const START: Asked = { age: 25, belt: "white", attire: "gi", ruleset: "full-points", athlete: "" };
const OTHER = "other_";

/** What is asked for; kept in the address, so that a page can be sent to somebody and found again. */
export function useAsked(prefix = ""): [Asked, (change: Partial<Asked>) => void] {
  const [address, setAddress] = useSearchParams();
  const read = (name: string) => address.get(`${prefix}${name}`);
  const age = Number(read("age") ?? START.age);
  const asked: Asked = {
    age: Number.isInteger(age) ? age : START.age,
    belt: (read("belt") ?? START.belt) as Asked["belt"],
    attire: (read("attire") ?? START.attire) as Asked["attire"],
    ruleset: read("ruleset") ?? START.ruleset,
    athlete: read("athlete") ?? START.athlete,
  };
  const set = (change: Partial<Asked>) =>
    setAddress(
      (now) => {
        const next = new URLSearchParams(now);
        for (const [name, value] of Object.entries({ ...asked, ...change })) next.set(`${prefix}${name}`, String(value));
        return next;
      },
      { replace: true },
    );
  return [asked, set];
}

/** The second division of a comparison; null while none is asked for. */
export function useOther(first: Asked): [Asked | null, (change: Partial<Asked> | null) => void] {
  const [address, setAddress] = useSearchParams();
  const [asked, set] = useAsked(OTHER);
  const comparing = address.has(`${OTHER}age`);
  const change = (part: Partial<Asked> | null) => {
    if (part !== null) set(comparing ? part : { ...first, ...part });
    else {
      setAddress((now) => new URLSearchParams([...now].filter(([name]) => !name.startsWith(OTHER))), { replace: true });
    }
  };
  return [comparing ? asked : null, change];
}

/** The address of a division's page. */
export function rulebookOf(
  { age, belt, attire, ruleset }: Omit<Asked, "ruleset" | "athlete"> & { ruleset: unknown },
  athlete: string,
): string {
  const kept = {
    age: String(age),
    belt,
    attire,
    athlete,
    ruleset: typeof ruleset === "string" ? ruleset : JSON.stringify(ruleset),
  };
  return `/rulebook?${new URLSearchParams(kept)}`;
}

/** The address of a division's briefing; with another division, that one is the last event's. */
export function briefingOf(asked: Asked, before: Asked | null, form: "html" | "pdf"): string {
  const query = new URLSearchParams({ ...asked, age: String(asked.age), form });
  for (const [name, value] of Object.entries(before ?? {})) query.set(`${OTHER}${name}`, String(value));
  return `/api/division/briefing?${query}`;
}
