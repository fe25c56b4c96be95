import type { Desk, Observation, Side, Verdict } from "../api/client";
import { SAME } from "../components/timeline";
import type { Change } from "./saveQueue";

type Row = Verdict["positions"][number];

/** Where somebody is at `t`, as the verdict says and as what is not sent yet changes it: "guard top", "standing". */
export function placeAt(desk: Pick<Desk, "verdict" | "observations">, unsent: readonly Change[], t: number, side: Side): string {
  const keys = new Set(unsent.map((change) => change.key));
  const starts = unsent.flatMap(({ body }) => (body?.kind === "clock" && body.action === "start" ? body.t : []));
  const begun = Math.min(desk.verdict.clock[0]?.t ?? Infinity, ...starts);
  const stored = desk.observations.filter((one) => one.id !== undefined && keys.has(one.id)).flatMap((one) => rowOf(one, begun) ?? []);
  const replaced = new Set(stored.map((row) => row.t));
  const said = desk.verdict.positions.filter((row) => !replaced.has(row.t));
  const own = unsent.flatMap(({ body }) => (body && rowOf(body, begun)) ?? []);
  const last = [...said, ...own]
    .filter((row) => row.t <= t + SAME)
    .sort((one, other) => one.t - other.t)
    .at(-1);
  if (!last) return "standing";
  return last.top === null ? last.position : `${last.position} ${last.top === side ? "top" : "bottom"}`;
}

/** Where an observation puts the two; null where it leaves them, as the first start of the clock does. */
function rowOf(seen: Observation, begun: number): Row | null {
  if (seen.kind === "position") return { t: seen.t, position: seen.position, top: seen.top ?? null };
  if (seen.kind !== "clock" || seen.action !== "start" || seen.restart === "same" || seen.t <= begun) return null;
  if (seen.restart === "placed") return { t: seen.t, position: seen.position ?? "standing", top: seen.top ?? null };
  return { t: seen.t, position: "standing", top: null };
}
