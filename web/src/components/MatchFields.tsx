import { useQuery } from "@tanstack/react-query";
import { useAthletes } from "../api/athletes";
import { api, type Athlete, type Match, ok, type Remembered, type UsualLength } from "../api/client";
import { choiceOf, rulesetOf, useRulesetChoices } from "../api/rulesets";
import { BELTS } from "./division";
import { Label, Part, Typed } from "./fields";
import { Problem } from "./Problem";

export const MINUTE_MS = 60_000;

/** What a match is about, as it is typed. */
export interface Form {
  athlete: string;
  opponent: string;
  club: string;
  event: string;
  date: string;
  round: string;
  weight_class: string;
  mat: string;
  ruleset: string;
  /** As it was typed; null: as the division has it. */
  minutes: string | null;
  /** A match that goes on until someone wins. */
  endless: boolean;
  plan: string;
  age: string;
  belt: Match["belt"];
  attire: Match["attire"];
}

export const EMPTY: Form = {
  athlete: "",
  opponent: "",
  club: "",
  event: "",
  date: "",
  round: "",
  weight_class: "",
  mat: "",
  ruleset: "full-points",
  minutes: null,
  endless: false,
  plan: "",
  age: "",
  belt: "white",
  attire: "gi",
};

interface Fields {
  form: Form;
  set: (part: Partial<Form>) => void;
}

/** The form of a match that there is. */
export function formOf(match: Match): Form {
  const { athlete, opponent, club, event, date, round, weight_class, mat, ruleset, duration_ms, plan, age, belt, attire } = match;
  return {
    athlete: String(athlete),
    opponent,
    club: club ?? "",
    event: event ?? "",
    date: date ?? "",
    round: round ?? "",
    weight_class: weight_class ?? "",
    mat: mat ?? "",
    ruleset: choiceOf(ruleset),
    minutes: duration_ms === null ? null : String(duration_ms / MINUTE_MS),
    endless: duration_ms === null,
    plan: plan ?? "",
    age: String(age),
    belt,
    attire,
  };
}

/** What a form says of a match; `minutes` are those that stand in it, typed or usual. */
export function settingOf(form: Form, minutes: string) {
  const { opponent, club, event, round, weight_class, mat, belt, attire } = form;
  const who = { athlete: Number(form.athlete), opponent, club, event, date: form.date || null, round, weight_class, mat };
  const duration_ms = form.endless ? null : Math.round(Number(minutes) * MINUTE_MS);
  return { ...who, plan: form.plan.trim(), ruleset: rulesetOf(form.ruleset), duration_ms, age: Number(form.age), belt, attire };
}

/** The minutes that stand in a form: as they were typed, or else as usual for the division. */
export function minutesOf(form: Form, usual: UsualLength | undefined): string {
  return form.minutes ?? (usual?.match_length ? String(usual.match_length / 60) : "");
}

const NOTHING: Remembered = { events: [], opponents: [], clubs: [], rounds: [], weight_classes: [], mats: [] };

/** What was typed for earlier matches. */
export function useRemembered(): Remembered {
  return useQuery({ queryKey: ["remembered"], queryFn: () => ok(api.GET("/api/remembered")), staleTime: 60_000 }).data ?? NOTHING;
}

/** How old an athlete turns in the year of a date, or this year where there is none. */
export function ageOn(date: string, athlete: Pick<Athlete, "birth_year">): string {
  return String((date ? Number(date.slice(0, 4)) : new Date().getFullYear()) - athlete.birth_year);
}

export function Who({ form, set, take }: Fields & { take: (athlete: Athlete) => void }) {
  const athletes = useAthletes();
  const remembered = useRemembered();
  const athlete = athletes.data?.find((one) => String(one.id) === form.athlete);
  /** The age follows the date, unless another was typed. */
  const on = (date: string) => ({ date, ...(athlete && form.age === ageOn(form.date, athlete) ? { age: ageOn(date, athlete) } : {}) });
  const at = (event: string) => {
    const known = remembered.events.find((one) => one.event === event);
    set({ event, ...(known ? { ruleset: choiceOf(known.ruleset), ...on(form.date || (known.date ?? "")) } : {}) });
  };
  const against = (opponent: string) => {
    const known = remembered.opponents.find((one) => one.opponent === opponent);
    set({ opponent, ...(known?.club ? { club: known.club } : {}) });
  };
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
      <Typed
        text="Opponent"
        most={80}
        required
        value={form.opponent}
        offered={remembered.opponents.map((one) => one.opponent)}
        set={against}
      />
      <Typed text="Event" most={120} value={form.event} offered={remembered.events.map((one) => one.event)} set={at} />
      <Label text="Date">
        <input className="field" type="date" value={form.date} onChange={(event) => set(on(event.target.value))} />
      </Label>
      <More form={form} set={set} remembered={remembered} />
      <Problem error={athletes.error} />
    </Part>
  );
}

/** What some events have and others don't. */
function More({ form, set, remembered }: Fields & { remembered: Remembered }) {
  return (
    <details className="sm:col-span-2" open={Boolean(form.club || form.round || form.weight_class || form.mat)}>
      <summary className="text-slate">Club, round, weight class and mat</summary>
      <div className="grid gap-4 pt-3 sm:grid-cols-2">
        <Typed text="Their club" most={80} value={form.club} offered={remembered.clubs} set={(club) => set({ club })} />
        <Typed text="Round" most={40} value={form.round} offered={remembered.rounds} set={(round) => set({ round })} />
        <Typed
          text="Weight class"
          most={40}
          value={form.weight_class}
          offered={remembered.weight_classes}
          set={(weight_class) => set({ weight_class })}
        />
        <Typed text="Mat" most={20} value={form.mat} offered={remembered.mats} set={(mat) => set({ mat })} />
      </div>
    </details>
  );
}

export function Rules({
  form,
  set,
  minutes,
  usual,
  faults,
}: Fields & { minutes: string; usual: UsualLength | undefined; faults: string[] }) {
  return (
    <>
      <RulesetField value={form.ruleset} set={(ruleset) => set({ ruleset })} />
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

/** What a match is scored by: a preset, house rules, or the version of some that it has. */
export function RulesetField({ value, set }: { value: string; set: (value: string) => void }) {
  const rulesets = useRulesetChoices();
  return (
    <Label text="Ruleset" wide note={rulesets.find((one) => one.value === value)?.about}>
      <select className="field" value={value} onChange={(event) => set(event.target.value)}>
        {rulesets.map((one) => (
          <option key={one.value} value={one.value}>
            {one.title}
          </option>
        ))}
        {rulesets.length > 0 && !rulesets.some((one) => one.value === value) && (
          <option value={value}>an earlier version of house rules</option>
        )}
      </select>
    </Label>
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

/** How long a match of the division usually is; undefined until the division is whole. */
export function useUsualLength({ age, belt, attire }: Form) {
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
