import { type FormEvent, useState } from "react";
import { useAthletes } from "../api/athletes";
import { api, type Fight, type NewFight, ok, type ShownDay } from "../api/client";
import { choiceOf, rulesetOf, useRulesetChoices } from "../api/rulesets";
import { Label } from "../components/fields";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";

const OF_THE_DAY = "";
const TEXTS = [
  { name: "opponent", text: "Opponent", most: 80 },
  { name: "club", text: "Opponent’s club", most: 80 },
  { name: "mat", text: "Mat", most: 20 },
  { name: "round", text: "Round", most: 40 },
  { name: "weight_class", text: "Weight class", most: 40 },
] as const;

interface Form extends Record<(typeof TEXTS)[number]["name"], string> {
  athlete: string;
  time: string;
  attire: Fight["attire"];
  ruleset: string;
}

function formOf(fight: Fight | null, day: ShownDay): Form {
  if (!fight)
    return { athlete: "", opponent: "", club: "", mat: "", round: "", weight_class: "", time: "", attire: "gi", ruleset: OF_THE_DAY };
  const { opponent, club, mat, round, weight_class, attire } = fight;
  const ruleset = choiceOf(fight.ruleset);
  return {
    opponent,
    club,
    mat,
    round,
    weight_class,
    attire,
    athlete: String(fight.athlete.id),
    time: fight.time?.slice(0, 5) ?? "",
    ruleset: ruleset === choiceOf(day.ruleset) ? OF_THE_DAY : ruleset,
  };
}

function bodyOf({ athlete, time, ruleset, ...form }: Form): NewFight {
  return { ...form, athlete: Number(athlete), time: time || null, ruleset: ruleset === OF_THE_DAY ? null : rulesetOf(ruleset) };
}

/** A fight of a day, as it is announced. */
export function FightForm({ day, fight, shown, done }: { day: ShownDay; fight: Fight | null; shown: string[]; done: () => void }) {
  const [form, setForm] = useState(() => formOf(fight, day));
  const set = (part: Partial<Form>) => setForm((now) => ({ ...now, ...part }));
  const path = { day: day.id, fight: fight?.id ?? 0 };
  const save = useDoing<undefined>(shown, async () => {
    const body = bodyOf(form);
    await ok(
      fight
        ? api.PUT("/api/event-days/{day}/fights/{fight}", { params: { path }, body })
        : api.POST("/api/event-days/{day}/fights", { params: { path: { day: day.id } }, body }),
    );
    done();
  });
  const remove = useDoing<undefined>(shown, async () => {
    await ok(api.DELETE("/api/event-days/{day}/fights/{fight}", { params: { path } }));
    done();
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate(undefined);
  };
  return (
    <form onSubmit={submit} className="grid gap-4 sm:grid-cols-2">
      <Fields day={day} form={form} set={set} />
      <div className="sm:col-span-2">
        <Problem error={save.error ?? remove.error} />
        <span className="flex gap-5">
          <button type="submit" className="act" disabled={save.isPending}>
            Save
          </button>
          {fight && (
            <button type="button" className="quiet" onClick={() => remove.mutate(undefined)}>
              Remove the fight
            </button>
          )}
        </span>
      </div>
    </form>
  );
}

function Fields({ day, form, set }: { day: ShownDay; form: Form; set: (part: Partial<Form>) => void }) {
  const athletes = useAthletes();
  const rulesets = useRulesetChoices();
  return (
    <>
      <Label text="Athlete">
        <select className="field" required value={form.athlete} onChange={(event) => set({ athlete: event.target.value })}>
          <option value="" disabled>
            Choose
          </option>
          {athletes.data?.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      </Label>
      <Label text="Time">
        <input className="field" type="time" value={form.time} onChange={(event) => set({ time: event.target.value })} />
      </Label>
      {TEXTS.map(({ name, text, most }) => (
        <Label key={name} text={text}>
          <input className="field" maxLength={most} value={form[name]} onChange={(event) => set({ [name]: event.target.value })} />
        </Label>
      ))}
      <Label text="Attire">
        <select className="field" value={form.attire} onChange={(event) => set({ attire: event.target.value as Fight["attire"] })}>
          <option value="gi">gi</option>
          <option value="nogi">nogi</option>
        </select>
      </Label>
      <Label text="Rules">
        <select className="field" value={form.ruleset} onChange={(event) => set({ ruleset: event.target.value })}>
          <option value={OF_THE_DAY}>as the day: {day.ruleset_title}</option>
          {rulesets.map((one) => (
            <option key={one.value} value={one.value}>
              {one.title}
            </option>
          ))}
        </select>
      </Label>
    </>
  );
}
