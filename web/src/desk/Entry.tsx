import { ToggleGroup } from "radix-ui";
import type { Technique } from "../api/client";
import type { Nameable } from "../components/search";
import { footage } from "../components/words";
import { type Field, type List, NOT_NAMED } from "./fields";
import { BOARD_PATTERN } from "./shownBoard";
import { TechniqueField, WordField } from "./TechniqueField";

/** One field of a form. */
export function Entry({
  field,
  value,
  set,
  techniques,
  recent,
  listed,
  place,
  now,
  first,
}: {
  field: Field;
  value: unknown;
  set: (value: unknown) => void;
  techniques: Technique[];
  recent: string[];
  listed: (list: List) => Nameable[];
  place: string;
  now: () => number;
  first: boolean;
}) {
  switch (field.type) {
    case "choice":
      return <Choice field={field} value={value} set={set} first={first} />;
    case "technique":
      return (
        <TechniqueField
          value={value === NOT_NAMED ? "" : String(value ?? "")}
          set={set}
          techniques={techniques}
          recent={recent}
          place={place}
          label={field.label}
          optional={field.optional === true}
        />
      );
    case "word":
      return <WordField field={field} value={String(value ?? "")} set={set} names={listed(field.list)} first={first} />;
    case "number":
      return <Numeral label={field.label} value={value} set={set} first={first} />;
    case "board":
      return <Shown label={field.label} value={value} set={set} />;
    case "time":
      return <UntilHere label={field.label} value={value} set={set} now={now} />;
    case "yes":
      return (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={value === true}
            onChange={(event) => set(event.target.checked)}
            className="h-5 w-5 accent-amber"
          />
          <span>{field.label}</span>
        </label>
      );
    case "text":
      return <Words field={field} value={value} set={set} first={first} />;
  }
}

function Words({ field, value, set, first }: EntryOf & { field: Extract<Field, { type: "text" }>; first: boolean }) {
  return (
    <label className="flex items-center gap-2">
      <span className="text-fog">{field.label}</span>
      <input
        className="desk-field w-52"
        required={!field.optional}
        value={String(value ?? "")}
        autoFocus={first || !field.optional}
        onChange={(event) => set(event.target.value)}
      />
      {field.note && value ? <span className="max-w-sm text-[15px] leading-snug text-amber">{field.note}</span> : null}
    </label>
  );
}

interface EntryOf {
  value: unknown;
  set: (value: unknown) => void;
}

/** What a scoreboard shows, typed as "4-2". */
function Shown({ label, value, set }: EntryOf & { label: string }) {
  return (
    <label className="flex items-center gap-2">
      <span className="text-fog">{label}</span>
      <input
        className="desk-field w-44"
        required
        pattern={BOARD_PATTERN}
        title="Points as 4-2; then, where the board shows them, advantages and penalties: 4-2 1-0 0-1"
        placeholder="4-2, or 4-2 1-0 0-1"
        inputMode="text"
        value={String(value ?? "")}
        autoFocus
        onChange={(event) => set(event.target.value)}
      />
      <span className="text-[15px] text-fog">points, then advantages and penalties where it shows them</span>
    </label>
  );
}

/** A few options, by click, arrow or digit. */
function Choice({ field, value, set, first }: EntryOf & { field: Extract<Field, { type: "choice" }>; first: boolean }) {
  return (
    <div className="flex items-center gap-2">
      <span className="text-fog" id={`field-${field.name}`}>
        {field.label}
      </span>
      <ToggleGroup.Root
        type="single"
        aria-labelledby={`field-${field.name}`}
        value={typeof value === "string" ? value : ""}
        onValueChange={(chosen) => {
          if (chosen || field.optional) set(chosen || undefined);
        }}
        onKeyDown={(event) => {
          const option = field.options[Number(event.key) - 1];
          if (!option) return;
          event.preventDefault();
          set(option[0]);
        }}
        className="flex flex-wrap"
      >
        {field.options.map(([option, label], index) => (
          <ToggleGroup.Item
            key={option}
            value={option}
            autoFocus={first && (value === option || (value === undefined && index === 0))}
            className="border border-seam px-2.5 py-1 data-[state=on]:bg-bone data-[state=on]:font-semibold data-[state=on]:text-night"
          >
            {field.options.length > 2 && <span className="mr-1 text-[14px] opacity-70">{index + 1}</span>}
            {label}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}

function Numeral({ label, value, set, first }: EntryOf & { label: string; first: boolean }) {
  return (
    <label className="flex items-center gap-2">
      <span className="text-fog">{label}</span>
      <input
        type="number"
        step={1}
        className="desk-field w-16"
        value={value === undefined ? "" : Number(value)}
        autoFocus={first}
        onChange={(event) => set(event.target.value === "" ? undefined : Number(event.target.value))}
      />
    </label>
  );
}

/** The moment at which it ended: where the footage is now. */
function UntilHere({ label, value, set, now }: EntryOf & { label: string; now: () => number }) {
  return (
    <div className="flex items-center gap-2">
      <span className="text-fog">{label}</span>
      <span className="w-20 text-bone">{typeof value === "number" ? footage(value) : "still on"}</span>
      <button type="button" className="quiet" onClick={() => set(now())}>
        end here
      </button>
    </div>
  );
}

/** A remark in the coach's own words. */
export function Note({ value, set }: EntryOf) {
  return (
    <label className="flex items-center gap-2">
      <span className="text-fog">Note</span>
      <input className="desk-field w-full min-w-40" value={String(value ?? "")} onChange={(event) => set(event.target.value)} />
    </label>
  );
}
