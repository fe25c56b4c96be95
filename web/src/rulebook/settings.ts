import type { Ruleset } from "../api/client";

/** All settings of a ruleset, as the match log names them. */
export type Settings = Record<string, unknown> & {
  points: Record<string, number>;
  also_legal: { techniques: string[]; from_age: number; from_belt: string };
};

export type SettingField =
  | { name: string; label: string; type: "number"; step: number; note?: string }
  | { name: string; label: string; type: "yes"; note?: string }
  | { name: string; label: string; type: "choice"; options: [string, string][]; note?: string }
  | { name: string; label: string; type: "list"; options: [string, string][]; note?: string }
  | { name: string; label: string; type: "techniques"; note?: string };

export const POINTS: [string, string][] = [
  ["takedown", "Takedown"],
  ["takedown_clear", "Takedown straight past the legs"],
  ["sweep", "Sweep"],
  ["sweep_clear", "Sweep straight past the legs"],
  ["knee_on_belly", "Knee on belly"],
  ["guard_pass", "Guard pass"],
  ["mount", "Mount"],
  ["back", "Back, both hooks"],
];
const RUNGS: [string, string][] = [
  ["none", "noted only"],
  ["advantage", "advantage to the other"],
  ["two_points", "two points to the other"],
  ["minus_point", "a point off"],
  ["disqualify", "disqualified"],
];
const TIES: [string, string][] = [
  ["points", "points"],
  ["advantages", "advantages"],
  ["penalties", "fewer penalties"],
  ["decision", "decision"],
  ["draw", "draw"],
];

export const FIELDS: SettingField[] = [
  { name: "hold_seconds", label: "Held for (s)", type: "number", step: 0.5 },
  {
    name: "points_from_fraction",
    label: "Points open from",
    type: "number",
    step: 0.05,
    note: "as a share of the match: 0 from the start, 0.5 from half-time",
  },
  {
    name: "repeat",
    label: "Knee, mount and back pay again",
    type: "choice",
    options: [
      ["after_recovery", "only after the other got out"],
      ["every_time", "every time"],
    ],
  },
  { name: "advantages", label: "Advantages are given", type: "yes" },
  { name: "pull_cost", label: "A guard pull costs", type: "number", step: 1, note: "points, once points are open" },
  {
    name: "pull_caught",
    label: "Pulled with a leg caught",
    type: "choice",
    options: [
      ["takedown", "the other's takedown"],
      ["none", "nothing"],
    ],
  },
  {
    name: "double_pull_top",
    label: "On top after both sat down",
    type: "choice",
    options: [
      ["advantage", "an advantage"],
      ["takedown", "a takedown"],
      ["none", "nothing"],
    ],
  },
  {
    name: "double_pull_limit",
    label: "Both seated at most (s)",
    type: "number",
    step: 1,
    note: "then a penalty for both; 0: no limit",
  },
  { name: "ladder", label: "Penalties, one after another", type: "list", options: RUNGS },
  { name: "tiebreak", label: "A tie is won by, in this order", type: "list", options: TIES },
  {
    name: "illegal",
    label: "An illegal technique",
    type: "choice",
    options: [
      ["disqualify", "disqualifies at once"],
      ["warn", "is warned of"],
    ],
  },
  { name: "illegal_disqualify_on", label: "The warning that disqualifies", type: "number", step: 1 },
  { name: "illegal_hold_blocks", label: "An illegal hold stops the other's count", type: "yes" },
  { name: "also_legal", label: "Also legal", type: "techniques" },
  { name: "barred", label: "Barred for everybody", type: "techniques" },
];

/** In which settings a ruleset is otherwise than its preset, in words. */
export function changesOf(settings: Settings, preset: Ruleset): string[] {
  const base = preset.settings as Settings;
  const points = POINTS.filter(([key]) => settings.points[key] !== base.points[key]).map(
    ([key, label]) => `${label} ${settings.points[key]} instead of ${base.points[key]}`,
  );
  const others = FIELDS.filter(({ name }) => JSON.stringify(settings[name]) !== JSON.stringify(base[name])).map(
    (field) => `${field.label}: ${said(field, settings[field.name])} instead of ${said(field, base[field.name])}`,
  );
  return [...points, ...others];
}

function said(field: SettingField, value: unknown): string {
  switch (field.type) {
    case "yes":
      return value ? "yes" : "no";
    case "choice":
      return field.options.find(([option]) => option === value)?.[1] ?? String(value);
    case "list":
      return (value as string[]).map((one) => field.options.find(([option]) => option === one)?.[1] ?? one).join(", ") || "nothing";
    case "techniques": {
      if (Array.isArray(value)) return value.join(", ") || "none";
      const allowed = value as Settings["also_legal"];
      return allowed.techniques.length
        ? `${allowed.techniques.join(", ")} from ${allowed.from_age} years and ${allowed.from_belt} belt`
        : "none";
    }
    case "number":
      return String(value);
  }
}
