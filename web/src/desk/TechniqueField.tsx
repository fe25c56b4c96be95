import { type ReactNode, useMemo } from "react";
import type { Technique } from "../api/client";
import { Combobox } from "../components/Combobox";
import { barredFirst, familyOf, type Nameable, plain, searcher } from "../components/search";
import type { Field } from "./fields";

const SHOWN = 4;
const STATUS = { legal: "", illegal: "illegal here", stop: "the referee stops it" };

const UNLIKELY = 99;

function order(likely: boolean, lately: boolean): number {
  return likely && lately ? 0 : likely ? 1 : 2;
}

/** Finds a technique by any of its names, and says before it is logged whether this division allows it. */
export function TechniqueField({
  value,
  set,
  techniques,
  recent,
  place,
  label,
  optional,
}: {
  value: string;
  set: (value: string) => void;
  techniques: Technique[];
  /** Techniques of this log, the latest first. */
  recent: string[];
  /** Where the one is who does it. */
  place: string;
  label: string;
  /** Whether it may stay without a name. */
  optional: boolean;
}) {
  const search = useMemo(() => searcher(techniques), [techniques]);
  const typed = plain(value);
  const family = useMemo(() => familyOf(techniques, typed), [techniques, typed]);
  const found = useMemo(() => {
    if (family.length > 0) return family;
    const lately = (one: Technique) => {
      const at = recent.findIndex((name) => plain(name) === plain(one.id) || plain(name) === plain(one.name));
      return at < 0 ? recent.length : at;
    };
    const often = (one: Technique) => one.likely[place] ?? UNLIKELY;
    const usual = (one: Technique, other: Technique) => often(one) - often(other) || lately(one) - lately(other);
    if (typed) return search(typed, SHOWN, usual, barredFirst);
    // Lately tried and likely from here, then likely, then lately tried elsewhere.
    const group = (one: Technique) => order(often(one) < UNLIKELY, lately(one) < recent.length);
    return techniques
      .filter((one) => often(one) < UNLIKELY || lately(one) < recent.length)
      .sort((one, other) => group(one) - group(other) || usual(one, other))
      .slice(0, SHOWN);
  }, [family, place, recent, search, techniques, typed]);
  const chosen = techniques.find((one) => one.id === value);
  return (
    <NameField
      label={label}
      list="Techniques"
      value={chosen ? chosen.name : value}
      set={set}
      taken={chosen !== undefined}
      options={found}
      ask={family.length > 0}
      idle={!typed}
      input={{ required: !optional, autoFocus: true, ...(optional ? { placeholder: "Not named" } : {}) }}
      say={(one) => one.status !== "legal" && <Ruled technique={one} />}
      mark={(one) => one.status !== "legal" && STATUS[one.status]}
    >
      {chosen && <Ruled technique={chosen} />}
      {family.length > 0 && <p className="text-fog">That may be any of these: pick the one that it was.</p>}
      {!chosen && typed && found.length === 0 && (
        <p className="text-fog">Not in the catalogue. You can log it; it is treated as legal, so check with the event.</p>
      )}
    </NameField>
  );
}

/** What is to be known of a technique before it is logged: whether it is legal here, why, and the usual caution. */
function Ruled({ technique }: { technique: Technique }) {
  const { status, because, neighbours, caution } = technique;
  return (
    <p className="max-w-2xl text-[14px] leading-tight text-bone">
      {status !== "legal" && <span className="mr-2 bg-bone px-1 font-semibold text-night">{STATUS[status]}</span>}
      {[because, ...neighbours].join(" ")} {caution ?? "Tap early, let go at the tap, stop on the referee’s word."}{" "}
      <span className="text-fog">The event&rsquo;s own rulebook, referees and licensed medical staff decide.</span>
    </p>
  );
}

/** A name out of a list, found by any of its names; other words do as well. */
export function WordField({
  field,
  value,
  set,
  names,
  first,
}: {
  field: Extract<Field, { type: "word" }>;
  value: string;
  set: (value: string) => void;
  names: Nameable[];
  first: boolean;
}) {
  const typed = plain(value);
  const taken = names.some((one) => one.name === value) || (field.optional === true && value === "");
  const spelled = ({ name, aliases }: Nameable) => [name, ...aliases].map(plain);
  const begins = (one: Nameable) => (spelled(one).some((name) => name.startsWith(typed)) ? 0 : 1);
  const found = names
    .filter((one) => spelled(one).some((name) => name.includes(typed)))
    .sort((one, other) => begins(one) - begins(other))
    .slice(0, SHOWN);
  // What is no name of the list can be taken as it was typed.
  const offered = typed && !taken ? [...found, { id: value, name: value, aliases: [] }] : found;
  return (
    <NameField
      label={field.label}
      list={field.list}
      value={value}
      set={set}
      taken={taken}
      options={offered}
      input={{ required: !field.optional, autoFocus: first }}
    />
  );
}

/** A name that is typed or taken from a short list, in the form of an observation. */
function NameField<T extends { id: string; name: string }>({
  label,
  list,
  value,
  set,
  taken,
  options,
  ask = false,
  idle = false,
  input,
  say,
  mark,
  children,
}: {
  label: string;
  list: string;
  value: string;
  set: (value: string) => void;
  /** Whether it is one of the list already. */
  taken: boolean;
  options: T[];
  ask?: boolean;
  idle?: boolean;
  input: { required: boolean; autoFocus: boolean; placeholder?: string };
  say?: (one: T) => ReactNode;
  mark?: (one: T) => string | false;
  children?: ReactNode;
}) {
  return (
    <div className="relative flex min-w-80 flex-1 flex-col gap-1">
      <Combobox
        label={<span className="text-fog">{label}</span>}
        labelClass="flex items-center gap-2"
        list={list}
        value={value}
        type={set}
        options={options}
        ask={ask}
        idle={idle}
        take={(one) => set(one.id)}
        open={!taken}
        enter="sends"
        input={{ className: "desk-field w-64", ...input }}
        listClass="flex gap-1 overflow-x-auto"
        optionClass={(lit) =>
          `flex shrink-0 cursor-pointer items-baseline gap-2 border px-1.5 text-[15px] whitespace-nowrap ${lit ? "border-bone bg-rail" : "border-seam"}`
        }
        between={(one) => !taken && one && say?.(one)}
        option={(one) => (
          <>
            <span className="font-semibold">{one.name}</span>
            {mark?.(one) && <span className="bg-bone px-1 text-[14px] text-night">{mark(one)}</span>}
          </>
        )}
      />
      {children}
    </div>
  );
}
