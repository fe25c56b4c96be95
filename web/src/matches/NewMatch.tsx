import { useMutation, useQuery } from "@tanstack/react-query";
import { type FormEvent, type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import { api, ApiError, type Athlete, type Match, type NewMatch as NewMatchBody, ok, type UsualLength } from "../api/client";
import { useAthletes } from "../api/athletes";
import { AthleteForm } from "../components/AthleteForm";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { rulesetOf, useRulesetChoices } from "../api/rulesets";
import { ClipPicker } from "../components/ClipPicker";
import { BELTS } from "../components/division";

interface Form {
  athlete: string;
  opponent: string;
  event: string;
  date: string;
  ruleset: string;
  /** As it was typed; null: as the division has it. */
  minutes: string | null;
  /** A match that goes on until somebody wins. */
  endless: boolean;
  plan: string;
  age: string;
  belt: Match["belt"];
  attire: Match["attire"];
}

const EMPTY: Form = {
  athlete: "",
  opponent: "",
  event: "",
  date: "",
  ruleset: "full-points",
  minutes: null,
  endless: false,
  plan: "",
  age: "",
  belt: "white",
  attire: "gi",
};

interface OpenedLog {
  name: string;
  body: unknown;
}

/** What is sent to set a match up: with a log, its rules and division come from there. */
function bodyOf(form: Form, minutes: string, clip: string | null, log: OpenedLog | null): NewMatchBody {
  const { athlete, opponent, event, date, plan, ruleset, age, belt, attire } = form;
  const who = { athlete: Number(athlete), opponent, event, date: date || null, clip };
  if (log) return { ...who, log: log.body };
  const duration_ms = form.endless ? null : Math.round(Number(minutes) * 60_000);
  return { ...who, plan: plan.trim(), ruleset: rulesetOf(ruleset), duration_ms, age: Number(age), belt, attire };
}

export function NewMatch() {
  const [form, setForm] = useState(EMPTY);
  const [clip, setClip] = useState<string | null>(null);
  const [log, setLog] = useState<OpenedLog | null>(null);
  const [unread, setUnread] = useState<Error | null>(null);
  const navigate = useNavigate();
  const set = (part: Partial<Form>) => setForm((now) => ({ ...now, ...part }));
  const usual = useUsualLength(form);
  const minutes = form.minutes ?? (usual?.match_length ? String(usual.match_length / 60) : "");
  const setUp = useMutation({
    mutationFn: () => ok(api.POST("/api/matches", { body: bodyOf(form, minutes, clip, log) })),
    onSuccess: (match) => void navigate(`/matches/${match.id}`),
  });
  const faults = setUp.error instanceof ApiError ? setUp.error.faults.map((fault) => fault.path) : [];
  const take = (athlete: Athlete) => {
    const year = form.date ? Number(form.date.slice(0, 4)) : new Date().getFullYear();
    set({ athlete: String(athlete.id), age: String(year - athlete.birth_year), belt: athlete.belt });
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setUp.mutate();
  };
  return (
    <PaperPage title="New match">
      <div className="grid gap-x-14 gap-y-8 lg:grid-cols-[1fr_300px]">
        <form onSubmit={submit} className="flex flex-col gap-8">
          <Who form={form} set={set} take={take} />
          <Part title="Rules and division">
            {log ? (
              <p className="sm:col-span-2">
                Taken from <strong>{log.name}</strong>.{" "}
                <button type="button" className="quiet" onClick={() => setLog(null)}>
                  Enter them here instead
                </button>
              </p>
            ) : (
              <Rules form={form} set={set} minutes={minutes} usual={usual} faults={faults} />
            )}
          </Part>
          <Part title="Footage">
            <div className="sm:col-span-2">
              <ClipPicker clip={clip} choose={(one) => setClip(one?.id ?? null)} />
            </div>
          </Part>
          <OpenLog open={setLog} fail={setUnread} />
          <Problem error={unread ?? setUp.error} />
          <button type="submit" className="act self-start" disabled={setUp.isPending}>
            {setUp.isPending ? "Setting up…" : "Go to the desk"}
          </button>
        </form>
        <aside className="border-l-2 border-rule pl-6">
          <AthleteForm athlete={null} done={take} />
        </aside>
      </div>
    </PaperPage>
  );
}

interface Fields {
  form: Form;
  set: (part: Partial<Form>) => void;
}

function Who({ form, set, take }: Fields & { take: (athlete: Athlete) => void }) {
  const athletes = useAthletes();
  return (
    <Part title="Who">
      <Label text="Your athlete">
        <select
          className="field"
          required
          value={form.athlete}
          onChange={(event) => {
            const found = athletes.data?.find((one) => String(one.id) === event.target.value);
            if (found) take(found);
            else set({ athlete: "" });
          }}
        >
          <option value="">Choose…</option>
          {athletes.data?.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      </Label>
      <Label text="Opponent">
        <input
          className="field"
          required
          maxLength={80}
          value={form.opponent}
          onChange={(event) => set({ opponent: event.target.value })}
        />
      </Label>
      <Label text="Event">
        <input className="field" maxLength={120} value={form.event} onChange={(event) => set({ event: event.target.value })} />
      </Label>
      <Label text="Date">
        <input className="field" type="date" value={form.date} onChange={(event) => set({ date: event.target.value })} />
      </Label>
      <Problem error={athletes.error} />
    </Part>
  );
}

function Rules({ form, set, minutes, usual, faults }: Fields & { minutes: string; usual: UsualLength | undefined; faults: string[] }) {
  const rulesets = useRulesetChoices();
  return (
    <>
      <Label text="Ruleset" wide note={rulesets.find((one) => one.value === form.ruleset)?.about}>
        <select className="field" value={form.ruleset} onChange={(event) => set({ ruleset: event.target.value })}>
          {rulesets.map((one) => (
            <option key={one.value} value={one.value}>
              {one.title}
            </option>
          ))}
        </select>
      </Label>
      <Label text="Age at the event">
        <input
          className="field"
          required
          inputMode="numeric"
          pattern="[0-9]{1,3}"
          title="Years"
          aria-invalid={faults.includes("age") || faults.includes("division.age")}
          value={form.age}
          onChange={(event) => set({ age: event.target.value })}
        />
      </Label>
      <Label text="Belt">
        <select className="field" value={form.belt} onChange={(event) => set({ belt: event.target.value as Match["belt"] })}>
          {BELTS.map((belt) => (
            <option key={belt}>{belt}</option>
          ))}
        </select>
      </Label>
      <Label text="Gi or no-gi">
        <select className="field" value={form.attire} onChange={(event) => set({ attire: event.target.value as Match["attire"] })}>
          <option value="gi">gi</option>
          <option value="nogi">no-gi</option>
        </select>
      </Label>
      <Length {...{ form, set, minutes, usual }} />
      <Label text="The plan" wide note="What you agreed on. It stays with the match and does not affect the score.">
        <input
          className="field"
          maxLength={300}
          placeholder="pull to half guard, come up on the single leg"
          value={form.plan}
          onChange={(event) => set({ plan: event.target.value })}
        />
      </Label>
    </>
  );
}

/** How long the match is, or that it has no limit. */
function Length({ form, set, minutes, usual }: Fields & { minutes: string; usual: UsualLength | undefined }) {
  return (
    <>
      <Label text="Match length in minutes" note={lengthNote(usual, form.minutes)}>
        <input
          className="field"
          required={!form.endless}
          disabled={form.endless}
          inputMode="decimal"
          pattern="[0-9]+(\.[0-9]+)?"
          title="Minutes, such as 5 or 2.5"
          value={form.endless ? "" : minutes}
          onChange={(event) => set({ minutes: event.target.value || null })}
        />
      </Label>
      <label className="flex items-center gap-2 sm:col-span-2">
        <input
          type="checkbox"
          className="h-5 w-5 accent-amber-deep"
          checked={form.endless}
          onChange={(event) => set({ endless: event.target.checked })}
        />
        No time limit: it goes on until someone wins
      </label>
    </>
  );
}

/** A match that was scored elsewhere. */
function OpenLog({ open, fail }: { open: (log: OpenedLog | null) => void; fail: (error: Error | null) => void }) {
  const read = async (file: File) => {
    fail(null);
    try {
      open({ name: file.name, body: JSON.parse(await file.text()) });
    } catch {
      open(null);
      fail(new Error(`${file.name} is not a match log. Choose a JSON file exported by Jurata.`));
    }
  };
  return (
    <Part title="Import an existing log">
      <label className="flex flex-wrap items-center gap-4 sm:col-span-2">
        <span className="act has-focus-visible:outline-2">
          Open a log
          <input
            type="file"
            accept=".json,application/json"
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) void read(file);
              event.target.value = ""; // the same file, mended, may be chosen again
            }}
          />
        </span>
        <span className="text-slate">Use this if the match was scored elsewhere; ruleset and division are read from the log.</span>
      </label>
    </Part>
  );
}

/** How long a match of the division usually is; undefined until the division is whole. */
function useUsualLength({ age, belt, attire }: Form) {
  const asked = { age: Number(age), belt, attire };
  return useQuery({
    queryKey: ["length", asked],
    queryFn: () => ok(api.GET("/api/division/length", { params: { query: asked } })),
    enabled: /^[0-9]{1,3}$/.test(age),
  }).data;
}

function lengthNote(usual: UsualLength | undefined, typed: string | null): string {
  if (!usual) return "Follows from age and belt";
  if (usual.match_length === null) return "No length is usual for this division: ask the event";
  const said = `${usual.match_length / 60} minutes are usual for this division`;
  return typed === null ? `${said}; change it if the event says otherwise` : said;
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="border-t-2 border-rule pt-3">
      <legend className="pr-3 font-serif text-xl font-semibold">{title}</legend>
      <div className="grid gap-4 sm:grid-cols-2">{children}</div>
    </fieldset>
  );
}

function Label({ text, note, wide = false, children }: { text: string; note?: string | undefined; wide?: boolean; children: ReactNode }) {
  return (
    <label className={wide ? "sm:col-span-2" : ""}>
      <span className="mb-1 block font-semibold">{text}</span>
      {children}
      {note && <span className="mt-1 block text-slate">{note}</span>}
    </label>
  );
}
