import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ApiError, ok, type Ruleset } from "../api/client";
import { Problem } from "../components/Problem";
import { changesOf, FIELD_GROUPS, FIELDS, POINTS, type Settings } from "./settings";
import { Line, Setting } from "./Setting";
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
        Based on {preset?.title}. {preset?.about}
      </p>
      <div className="grid gap-x-10 gap-y-3 lg:grid-cols-2">
        <Names title={title} setTitle={setTitle} note={note} setNote={setNote} wrong={wrong.has("title")} />
      </div>
      {FIELD_GROUPS.map(({ group, title: heading, fields }) => (
        <fieldset key={group} className="mt-5 border-t-2 border-rule pt-2">
          <legend className="pr-3 font-serif text-xl font-semibold">{heading}</legend>
          <div className="grid items-start gap-x-10 gap-y-3 lg:grid-cols-2">
            {group === "positions" && <Points points={settings.points} set={(points) => set("points", points)} />}
            {fields.map((field) => (
              <Setting
                key={field.name}
                field={field}
                value={settings[field.name]}
                set={(value) => set(field.name, value)}
                wrong={wrong.has(field.name)}
              />
            ))}
          </div>
        </fieldset>
      ))}
      <Changes settings={settings} preset={preset} rules={rules} />
      <Problem error={save.error} />
      <div className="mt-4 flex gap-5">
        <button type="submit" className="act" disabled={save.isPending}>
          {draft.family ? "Save as the next version" : "Save"}
        </button>
        <button type="button" className="quiet" onClick={done}>
          Cancel
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
      <Line label="Note on this version">
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
      <h3 className="font-serif text-xl font-semibold">
        {changes.length ? `Changes from ${preset?.title}` : `No changes from ${preset?.title} yet`}
      </h3>
      <ul className="list-disc pl-5">
        {changes.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <TryOn ruleset={rules} />
    </section>
  );
}
