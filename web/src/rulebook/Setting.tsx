import type { ReactNode } from "react";
import { BELTS } from "../components/division";
import { type Held, HELD_APART, heldOther, type Overtime, type SettingField, type Settings, withHeld } from "./settings";
import { Techniques } from "./Techniques";

export function Line({ label, note, children }: { label: string; note?: string | undefined; children: ReactNode }) {
  return (
    <label className="block">
      <span className="mb-0.5 block font-semibold">
        {label} {note && <span className="text-[15px] font-normal text-slate">{note}</span>}
      </span>
      {children}
    </label>
  );
}

/** One setting of a ruleset, as its kind is edited. */
export function Setting({
  field,
  value,
  set,
  wrong,
}: {
  field: SettingField;
  value: unknown;
  set: (value: unknown) => void;
  wrong: boolean;
}) {
  switch (field.type) {
    case "number":
    case "maybe":
      return <Numeral field={field} value={value} set={set} wrong={wrong} />;
    case "held":
      return <HeldFor field={field} held={value as Held} set={set} wrong={wrong} />;
    case "overtime":
      return <OvertimeOf field={field} overtime={value as Overtime | null} set={set} wrong={wrong} />;
    case "yes":
      return (
        <label className="flex items-center gap-3 self-end pb-2 font-semibold">
          <input
            type="checkbox"
            className="h-5 w-5 accent-amber-deep"
            checked={value === true}
            onChange={(event) => set(event.target.checked)}
          />
          {field.label}
        </label>
      );
    case "choice":
      return (
        <Line label={field.label} note={field.note}>
          <select className="field" value={String(value)} onChange={(event) => set(event.target.value)}>
            {field.options.map(([option, label]) => (
              <option key={option} value={option}>
                {label}
              </option>
            ))}
          </select>
        </Line>
      );
    case "list":
      return <Steps field={field} steps={value as string[]} set={set} wrong={wrong} />;
    case "techniques":
      return field.name === "barred" ? (
        <Techniques label={field.label} names={value as string[]} set={set} />
      ) : (
        <AlsoLegal allowed={value as Settings["also_legal"]} label={field.label} set={set} />
      );
  }
}

/** A number; one that may be left empty is null then. */
function Numeral({
  field,
  value,
  set,
  wrong,
}: {
  field: Extract<SettingField, { step: number }>;
  value: unknown;
  set: (value: number | null) => void;
  wrong: boolean;
}) {
  const shown = typeof value === "number" ? value : "";
  return (
    <Line label={field.label} note={field.note}>
      <input
        type="number"
        min={0}
        step={field.step}
        className="field"
        aria-invalid={wrong}
        value={shown}
        onChange={(event) => set(event.target.value === "" && field.type === "maybe" ? null : Number(event.target.value))}
      />
    </Line>
  );
}

/** Steps in an order: changed, added at the end, taken away. */
function Steps({
  field,
  steps,
  set,
  wrong,
}: {
  field: Extract<SettingField, { options: unknown }>;
  steps: string[];
  set: (steps: string[]) => void;
  wrong: boolean;
}) {
  return (
    <fieldset>
      <legend className="mb-0.5 font-semibold">{field.label}</legend>
      <ol className="flex flex-col gap-1">
        {steps.map((step, index) => (
          <li key={index} className="flex items-center gap-2">
            <span className="w-5 text-slate">{index + 1}.</span>
            <select
              className="field"
              aria-label={`${field.label}: ${index + 1}`}
              aria-invalid={wrong}
              value={step}
              onChange={(event) => set(steps.map((one, at) => (at === index ? event.target.value : one)))}
            >
              {field.options.map(([option, label]) => (
                <option key={option} value={option}>
                  {label}
                </option>
              ))}
            </select>
            <button
              type="button"
              className="quiet text-[15px] whitespace-nowrap"
              aria-label={`Remove ${index + 1} of ${field.label}`}
              onClick={() => set(steps.filter((_, at) => at !== index))}
            >
              remove
            </button>
          </li>
        ))}
      </ol>
      <button type="button" className="quiet mt-1 text-[15px]" onClick={() => set([...steps, steps.at(-1) ?? field.options[0]?.[0] ?? ""])}>
        Add another
      </button>
    </fieldset>
  );
}

function AlsoLegal({
  allowed,
  label,
  set,
}: {
  allowed: Settings["also_legal"];
  label: string;
  set: (allowed: Settings["also_legal"]) => void;
}) {
  return (
    <div>
      <Techniques label={label} names={allowed.techniques} set={(techniques) => set({ ...allowed, techniques })} />
      <div className="mt-1 flex flex-wrap gap-x-4">
        <label>
          from age{" "}
          <input
            type="number"
            min={0}
            max={120}
            className="field w-20!"
            value={allowed.from_age}
            onChange={(event) => set({ ...allowed, from_age: Number(event.target.value) })}
          />
        </label>
        <label>
          and belt{" "}
          <select
            className="field w-28!"
            value={allowed.from_belt}
            onChange={(event) => set({ ...allowed, from_belt: event.target.value })}
          >
            {BELTS.map((belt) => (
              <option key={belt}>{belt}</option>
            ))}
          </select>
        </label>
      </div>
    </div>
  );
}

/** How long claims are held: one time for all, and others for those that differ. */
function HeldFor({ field, held, set, wrong }: { field: SettingField; held: Held; set: (held: Held) => void; wrong: boolean }) {
  const apart = typeof held === "number" ? {} : held;
  return (
    <div>
      <Line label={field.label} note={field.note}>
        <input
          type="number"
          min={0}
          step={0.5}
          className="field"
          aria-invalid={wrong}
          value={heldOther(held)}
          onChange={(event) => set(withHeld(held, "other", Number(event.target.value)))}
        />
      </Line>
      <details className="pt-1" open={Object.keys(apart).length > 0}>
        <summary className="text-[15px] text-slate">Other times for some</summary>
        <div className="grid grid-cols-2 gap-x-6 gap-y-1 pt-1">
          {HELD_APART.map(([claim, label]) => (
            <label key={claim} className="flex items-center justify-between gap-2 text-[15px]">
              {label}
              <input
                type="number"
                min={0}
                step={0.5}
                className="field w-20!"
                placeholder={String(heldOther(held))}
                value={apart[claim] ?? ""}
                onChange={(event) => set(withHeld(held, claim, event.target.value === "" ? null : Number(event.target.value)))}
              />
            </label>
          ))}
        </div>
      </details>
    </div>
  );
}

const GOLDEN = [
  ["", "the score at its end"],
  ["points", "the first points"],
  ["advantages", "the first points or advantage"],
] as const;

/** Whether the event plays on after a tie, for how long, and what wins it. */
function OvertimeOf({
  field,
  overtime,
  set,
  wrong,
}: {
  field: SettingField;
  overtime: Overtime | null;
  set: (overtime: Overtime | null) => void;
  wrong: boolean;
}) {
  return (
    <fieldset>
      <legend className="mb-0.5 font-semibold">
        {field.label} <span className="text-[15px] font-normal text-slate">{field.note}</span>
      </legend>
      <label className="flex items-center gap-3">
        <input
          type="checkbox"
          className="h-5 w-5 accent-amber-deep"
          checked={overtime !== null}
          onChange={(event) => set(event.target.checked ? { seconds: null, golden: "points" } : null)}
        />
        is played
      </label>
      {overtime && (
        <div className="flex flex-wrap gap-x-5 gap-y-1 pt-1">
          <label>
            Seconds{" "}
            <input
              type="number"
              min={1}
              className="field w-24!"
              placeholder="no limit"
              aria-invalid={wrong}
              value={overtime.seconds ?? ""}
              onChange={(event) => set({ ...overtime, seconds: event.target.value === "" ? null : Number(event.target.value) })}
            />
          </label>
          <label>
            Won by{" "}
            <select
              className="field w-auto!"
              value={overtime.golden ?? ""}
              onChange={(event) => set({ ...overtime, golden: (event.target.value || null) as Overtime["golden"] })}
            >
              {GOLDEN.map(([value, said]) => (
                <option key={value} value={value}>
                  {said}
                </option>
              ))}
            </select>
          </label>
        </div>
      )}
    </fieldset>
  );
}
