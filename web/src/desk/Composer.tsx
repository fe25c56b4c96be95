import { type FormEvent, type KeyboardEvent, useState } from "react";
import { flushSync } from "react-dom";
import type { Observation, PositionName, Technique } from "../api/client";
import words from "../api/words.json";
import type { Nameable } from "../components/search";
import { footage } from "../components/words";
import { detailsOf } from "./answers";
import { Entry, Note } from "./Entry";
import { TimeField } from "./TimeField";
import { type Field, fieldsOf, LATERAL, type List, TITLES, type Values } from "./fields";
import { observationOf, unanswered } from "./forms";

export interface Draft {
  kind: Observation["kind"];
  t: number;
  values: Values;
  /** The observation being changed, null for a new one. */
  key: string | null;
  /** The field that has the keyboard first, where it is not the first one. */
  focus?: string;
  /** Where the one is who does it, as "guard bottom". */
  place?: string;
  /** Whether the picture played before, and goes on after it. */
  resume?: boolean;
}

const WHO = ["by", "to"];
const MOST_BESIDE = 3;

/** How fields share the room: techniques wide, long choices across, the rest in a narrow column. */
function rowsOf(fields: Field[]): { wide: Field[]; across: Field[]; narrow: Field[] } {
  const isWide = (field: Field) => field.type === "technique" || (field.type === "word" && field.list === "grips");
  const wide = fields.filter(isWide);
  // Beside a technique there is room for a few choices; more of them have a row of their own.
  const isAcross = (field: Field) =>
    wide.length > 0 && field.type === "choice" && (field.options.length > MOST_BESIDE || LATERAL.includes(field));
  const rest = fields.filter((field) => !isWide(field) && !WHO.includes(field.name));

  return { wide, across: rest.filter(isAcross), narrow: rest.filter((field) => !isAcross(field)) };
}

/** The names that a list has: of grips those of this log first, of details those of the position. */
function listed(list: List, values: Values, recent: string[], causes: string[]): Nameable[] {
  if (list === "details") return detailsOf(values.position as PositionName).map((one) => ({ ...one, id: one.name }));
  const names = list === "causes" ? causes : [...new Set([...recent, ...words.grips])];
  return names.map((name) => ({ id: name, name, aliases: [] }));
}

interface Props {
  draft: Draft;
  techniques: Technique[];
  /** Techniques, or grips, of this log, the latest first. */
  recent: string[];
  /** The coach's own list of causes. */
  causes: string[];
  now: () => number;
  save: (body: Observation, key: string | null) => void;
  close: () => void;
}

/** A form is not sent by Enter on a radio button of itself: send it. */
function sendFromRadio(event: KeyboardEvent<HTMLFormElement>) {
  if ((event.target as HTMLElement).role !== "radio") return;
  event.preventDefault();
  event.currentTarget.requestSubmit();
}

/** What is filled in so far, and how it is sent: not before every choice is made that has to be. */
function useFilled(draft: Draft, save: Props["save"]) {
  const [values, setValues] = useState<Values>(draft.values);
  const [t, setT] = useState(draft.t);
  const set = (name: string, value: unknown) => setValues((before) => ({ ...before, [name]: value }));
  const [missing, setMissing] = useState<string | null>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const open = unanswered(draft.kind, values);
    setMissing(open?.label ?? null);
    if (open) return;
    save(observationOf(draft.kind, values, t), draft.key);
  };
  return { values, set, t, setT, missing, submit };
}

/** Fills in one observation, in the place of the pad, so that the picture stays in view. */
export function Composer({ draft, techniques, recent, causes, now, save, close }: Props) {
  const { values, set, t, setT, missing, submit } = useFilled(draft, save);
  const changes = draft.key !== null;
  // Of a new entry, left and right are one more key after it.
  const fields = fieldsOf(draft.kind, values).filter((field) => changes || !LATERAL.includes(field));
  // Who it is has been said by the key; what is asked next has the keyboard.
  const asked = fields.find((field) => field.name === draft.focus) ?? fields.find((field) => !WHO.includes(field.name)) ?? fields[0];
  const asClose = () => flushSync(() => set("threat", "close"));
  const nudge = (by: number) => setT((before) => Math.max(0, Math.round((before + by) * 1000) / 1000));
  const keys = (event: KeyboardEvent<HTMLFormElement>) => {
    if (event.key === "Escape") close();
    if (event.key !== "Enter") return;
    if (event.shiftKey && draft.kind === "submission") asClose();
    sendFromRadio(event);
  };
  const entry = (field: Field) => (
    <Entry
      key={field.name}
      field={field}
      value={values[field.name]}
      set={(value) => set(field.name, value)}
      techniques={techniques}
      recent={recent}
      listed={(list) => listed(list, values, recent, causes)}
      place={draft.place ?? ""}
      now={now}
      first={field === asked}
    />
  );
  const { wide, across, narrow } = rowsOf(fields);
  return (
    <form
      onSubmit={submit}
      onKeyDown={keys}
      className={`flex flex-col gap-1 overflow-y-auto px-3 pt-1.5 pb-1 text-bone stacked:h-auto stacked:max-h-none ${changes ? "max-h-[236px] min-h-[170px]" : "h-[170px]"}`}
      aria-label={TITLES[draft.kind]}
    >
      <div className="flex items-center gap-4">
        <h2 className="text-xl font-semibold whitespace-nowrap">{TITLES[draft.kind]}</h2>
        {changes ? <TimeField t={t} set={setT} /> : <span className="text-fog whitespace-nowrap max-xl:text-[15px]">at {footage(t)}</span>}
        {fields.filter((field) => WHO.includes(field.name)).map(entry)}
        {changes && <MoveIt to={() => setT(now())} by={nudge} />}
        <Buttons draft={draft} asClose={asClose} close={close} />
      </div>
      <Missing label={missing} />
      {across.length > 0 && <div className="flex flex-wrap gap-x-6 gap-y-1">{across.map(entry)}</div>}
      <div className="flex items-start gap-x-6">
        {wide.map(entry)}
        <div
          className={wide.length ? "flex w-80 shrink-0 flex-col gap-2 max-xl:w-52" : "flex min-w-0 flex-wrap items-center gap-x-6 gap-y-2"}
        >
          {narrow.map(entry)}
          <Note value={values.note} set={(note) => set("note", note)} />
        </div>
      </div>
    </form>
  );
}

/** What has to be picked before the form can be sent. */
function Missing({ label }: { label: string | null }) {
  return label && <p role="alert" className="font-semibold text-amber">{`${label}: pick one first.`}</p>;
}

/** Moves the observation: to where the footage is, or by a tenth of a second. */
function MoveIt({ to, by }: { to: () => void; by: (seconds: number) => void }) {
  return (
    <span className="flex gap-3 whitespace-nowrap">
      <button type="button" className="quiet" onClick={to}>
        Move here
      </button>
      {[-0.1, 0.1].map((seconds) => (
        <button key={seconds} type="button" className="border border-seam px-1.5" onClick={() => by(seconds)}>
          {seconds > 0 ? "+" : "−"}0.1 s
        </button>
      ))}
    </span>
  );
}

function Buttons({ draft, asClose, close }: { draft: Draft; asClose: () => void; close: () => void }) {
  return (
    <span className="ml-auto flex items-center gap-4 whitespace-nowrap max-xl:gap-3 max-xl:[&_.key]:hidden">
      <button type="submit" className="bg-amber px-3 py-1 font-bold text-night">
        {draft.key === null ? "Log it" : "Save"} <span className="key">⏎</span>
      </button>
      {draft.kind === "submission" && draft.key === null && (
        <button type="submit" className="border-2 border-amber px-2 py-0.5" onClick={asClose}>
          Log as close <span className="key">⇧⏎</span>
        </button>
      )}
      <button type="button" className="quiet" onClick={close}>
        Cancel <span className="key">Esc</span>
      </button>
    </span>
  );
}
