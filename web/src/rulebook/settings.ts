import type { Ruleset } from "../api/client";
import words from "../api/words.json";

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

export const POINTS = words.points as [string, string][];
export const FIELDS = words.settings as SettingField[];

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
        ? `${allowed.techniques.join(", ")} from ${allowed.from_age} years and ${allowed.from_belt} belt`
        : "none";
    }
    case "number":
      return String(value);
  }
}
