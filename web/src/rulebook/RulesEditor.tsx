import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, type ReactNode, useState } from "react";
import { api, ApiError, ok, type Ruleset } from "../api/client";
import { Problem } from "../components/Problem";
import { BELTS } from "../components/division";
import { changesOf, FIELDS, POINTS, type SettingField, type Settings } from "./settings";
import { Techniques } from "./Techniques";
import { TryOn } from "./TryOn";

export interface Draft {
  title: string;
  extends: string;
  settings: Settings;
  /** The house rules of which this becomes the next version. */
  family: string | null;
  shared: boolean;
}

function useSave(draft: Draft, rules: Record<string, unknown>, done: () => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () =>
      ok(
        api.POST("/api/house-rules", {
          body: { rules, shared: draft.shared, ...(draft.family ? { family: draft.family } : {}) },
        }),
      ),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["house-rules"] });
      done();
    },
  });
}

/** All settings of a ruleset, what they change of their preset, and what they would make of a match. */
export function RulesEditor({ draft, presets, done }: { draft: Draft; presets: Ruleset[]; done: () => void }) {
  const [title, setTitle] = useState(draft.title);
  const [note, setNote] = useState("");
  const [settings, setSettings] = useState(draft.settings);
  const set = (name: string, value: unknown) => setSettings((now) => ({ ...now, [name]: value }) as Settings);
  const preset = presets.find((one) => one.id === draft.extends);
  const own = Object.fromEntries(["points", ...FIELDS.map((field) => field.name)].map((name) => [name, settings[name]]));
  const rules = { extends: draft.extends, title, ...(note ? { note } : {}), ...own };
  const save = useSave(draft, rules, done);
  const heading = draft.family ? `A new version of ${draft.title}` : "New house rules";
  const wrong = new Set(save.error instanceof ApiError ? save.error.faults.map((fault) => fault.path.split(/[.[]/)[0]) : []);
  return (
    <form
      className="mt-6 border-t-4 border-amber-deep bg-sheet px-6 py-5"
      aria-label={heading}
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <h2 className="text-2xl font-semibold">{heading}</h2>
      <p className="pb-4 text-slate">
        {preset?.title}, changed. {preset?.about}
      </p>
      <div className="grid gap-x-10 gap-y-3 lg:grid-cols-2">
        <Names title={title} setTitle={setTitle} note={note} setNote={setNote} wrong={wrong.has("title")} />
        <Points points={settings.points} set={(points) => set("points", points)} />
        {FIELDS.map((field) => (
          <Setting
            key={field.name}
            field={field}
            value={settings[field.name]}
            set={(value) => set(field.name, value)}
            wrong={wrong.has(field.name)}
          />
        ))}
      </div>
      <Changes settings={settings} preset={preset} rules={rules} />
      <Problem error={save.error} />
      <div className="mt-4 flex gap-5">
        <button type="submit" className="act" disabled={save.isPending}>
          {draft.family ? "Save as the next version" : "Save"}
        </button>
        <button type="button" className="quiet" onClick={done}>
          Leave it
        </button>
      </div>
    </form>
  );
}

/** What the rules are called, and what changed in this version of them. */
function Names({
  title,
  setTitle,
  note,
  setNote,
  wrong,
}: {
  title: string;
  setTitle: (title: string) => void;
  note: string;
  setNote: (note: string) => void;
  wrong: boolean;
}) {
  return (
    <>
      <Line label="Name">
        <input
          className="field"
          required
          maxLength={80}
          aria-invalid={wrong}
          value={title}
          onChange={(event) => setTitle(event.target.value)}
        />
      </Line>
      <Line label="Note to this version">
        <input
          className="field"
          maxLength={300}
          placeholder="what changed, and why"
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      </Line>
    </>
  );
}

function Points({ points, set }: { points: Settings["points"]; set: (points: Settings["points"]) => void }) {
  return (
    <fieldset className="grid grid-cols-2 gap-x-6 gap-y-2 sm:grid-cols-4 lg:col-span-2">
      <legend className="pb-1 font-semibold">Points</legend>
      {POINTS.map(([key, label]) => (
        <label key={key} className="flex items-end justify-between gap-2 text-[15px]">
          {label}
          <input
            type="number"
            min={0}
            max={99}
            className="field w-16!"
            value={points[key] ?? 0}
            onChange={(event) => set({ ...points, [key]: Number(event.target.value) })}
          />
        </label>
      ))}
    </fieldset>
  );
}

/** What differs from the preset, and what a match would come to. */
function Changes({ settings, preset, rules }: { settings: Settings; preset: Ruleset | undefined; rules: unknown }) {
  const changes = preset ? changesOf(settings, preset) : [];
  return (
    <section className="mt-6 border-t-2 border-rule pt-3" aria-label="Changes">
      <h3 className="font-serif text-xl font-semibold">{changes.length ? `Against ${preset?.title}` : `As ${preset?.title} so far`}</h3>
      <ul className="list-disc pl-5">
        {changes.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <TryOn ruleset={rules} />
    </section>
  );
}

function Line({ label, note, children }: { label: string; note?: string | undefined; children: ReactNode }) {
  return (
    <label className="block">
      <span className="mb-0.5 block font-semibold">
        {label} {note && <span className="text-[15px] font-normal text-slate">{note}</span>}
      </span>
      {children}
    </label>
  );
}

function Setting({ field, value, set, wrong }: { field: SettingField; value: unknown; set: (value: unknown) => void; wrong: boolean }) {
  switch (field.type) {
    case "number":
      return (
        <Line label={field.label} note={field.note}>
          <input
            type="number"
            min={0}
            step={field.step}
            className="field"
            aria-invalid={wrong}
            value={Number(value)}
            onChange={(event) => set(Number(event.target.value))}
          />
        </Line>
      );
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
        <Line label={field.label}>
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

/** Steps in an order: changed, added at the end, taken away. */
function Steps({
  field,
  steps,
  set,
  wrong,
}: {
  field: Extract<SettingField, { type: "list" }>;
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
              aria-label={`Take away ${index + 1} of ${field.label}`}
              onClick={() => set(steps.filter((_, at) => at !== index))}
            >
              take away
            </button>
          </li>
        ))}
      </ol>
      <button type="button" className="quiet mt-1 text-[15px]" onClick={() => set([...steps, steps.at(-1) ?? field.options[0]?.[0] ?? ""])}>
        One more
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
