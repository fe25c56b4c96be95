import type { Ruleset } from "../api/client";
import words from "../api/words.json";

/** All settings of a ruleset, as the match log names them. */
export type Settings = Record<string, unknown> & {
  points: Record<string, number>;
  also_legal: { techniques: string[]; from_age: number; from_belt: string };
};

/** How long each claim is held, where not all alike; `other` for the rest. */
export type Held = number | Record<string, number>;
export interface Overtime {
  seconds: number | null;
  golden: "points" | "advantages" | null;
}

interface Common {
  name: string;
  label: string;
  group: keyof typeof words.groups;
  note?: string;
}
export type SettingField = Common &
  (
    | { type: "number" | "held" | "maybe"; step: number }
    | { type: "yes" | "techniques" | "overtime" }
    | { type: "choice" | "list"; options: [string, string][] }
  );

export const POINTS = words.points as [string, string][];
export const FIELDS = words.settings as SettingField[];
export const FIELD_GROUPS = Object.entries(words.groups).map(([group, title]) => ({
  group,
  title,
  fields: FIELDS.filter((field) => field.group === group),
}));

/** The claims whose holding time can be set apart, with their names. */
export const HELD_APART = Object.entries(words.claims).map(([claim, { label }]) => [claim, label] as const);

const USUAL_HOLD = words.settings.find((field) => "usual" in field)?.usual;

/** How long claims are held that have no time of their own. */
export function heldOther(held: Held): number {
  return typeof held === "number" ? held : (held.other ?? Number(USUAL_HOLD));
}

/** The holding times with one changed; null takes it back to that of the rest. All alike, they are one number. */
export function withHeld(held: Held, claim: string, seconds: number | null): Held {
  const apart = Object.fromEntries(
    Object.entries(typeof held === "number" ? {} : held).filter(([name]) => name !== "other" && name !== claim),
  );
  const other = claim === "other" && seconds !== null ? seconds : heldOther(held);
  if (claim !== "other" && seconds !== null) apart[claim] = seconds;
  return Object.keys(apart).length ? { ...apart, other } : other;
}

/** In which settings a ruleset differs from its preset, in words. */
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
        ? `${allowed.techniques.join(", ")} from ${allowed.from_belt} belt and age ${allowed.from_age}`
        : "none";
    }
    case "held":
      return heldSaid(value as Held);
    case "overtime":
      return overtimeSaid(value as Overtime | null);
    case "maybe":
      return value === null || value === undefined ? "by the fraction" : String(value);
    case "number":
      return String(value);
  }
}

function heldSaid(held: Held): string {
  const apart = typeof held === "number" ? [] : HELD_APART.flatMap(([claim, label]) => (claim in held ? [`${label} ${held[claim]}`] : []));
  return [String(heldOther(held)), ...apart].join(", ");
}

function overtimeSaid(overtime: Overtime | null): string {
  if (!overtime) return "none";
  const golden = overtime.golden ? `, won by the first ${overtime.golden === "points" ? "points" : "points or advantage"}` : "";
  return `${overtime.seconds === null ? "without a limit" : `${overtime.seconds} s`}${golden}`;
}
