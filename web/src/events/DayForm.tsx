import { type FormEvent, useState } from "react";
import type { NewEventDay } from "../api/client";
import { rulesetOf, useRulesetChoices } from "../api/rulesets";
import { Label } from "../components/fields";
import { Problem } from "../components/Problem";

export type DayValues = NewEventDay;

/** A day of an event: its name, its date, and the rules that its fights are under. */
export function DayForm({
  act,
  busy,
  error,
  submit,
}: {
  act: string;
  busy: boolean;
  error: Error | null;
  submit: (values: DayValues) => void;
}) {
  const rulesets = useRulesetChoices();
  const [name, setName] = useState("");
  const [date, setDate] = useState("");
  const [ruleset, setRuleset] = useState("full-points");
  const send = (event: FormEvent) => {
    event.preventDefault();
    submit({ name, date, ruleset: rulesetOf(ruleset) });
  };
  return (
    <form onSubmit={send} className="flex flex-col gap-4">
      <Label text="Event">
        <input className="field" required maxLength={120} value={name} onChange={(event) => setName(event.target.value)} />
      </Label>
      <Label text="Day">
        <input className="field" type="date" required value={date} onChange={(event) => setDate(event.target.value)} />
      </Label>
      <Label text="Rules">
        <select className="field" value={ruleset} onChange={(event) => setRuleset(event.target.value)}>
          {rulesets.map((one) => (
            <option key={one.value} value={one.value}>
              {one.title}
            </option>
          ))}
        </select>
      </Label>
      <Problem error={error} />
      <button type="submit" className="act self-start" disabled={busy}>
        {act}
      </button>
    </form>
  );
}
