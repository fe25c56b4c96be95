import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { HelpLinks } from "../components/HelpLinks";
import { Problem } from "../components/Problem";
import { openKeyCard } from "./keyCard";
import { EditCauses } from "../components/EditCauses";
import { DIGITS } from "./answers";
import { FIXED, type FixedKeys, GROUPS, keyOf, LETTERS, type OwnKeys, withKey } from "./keys";
import { Sheet } from "../components/Sheet";
import { useCauses } from "./useCauses";

const COLUMNS = [
  { group: "who", fixed: FIXED.eye },
  { group: "what", fixed: FIXED.footage },
  { group: "log", fixed: FIXED.chosen },
] as const;

/** Every key with what it does; a letter can be changed by choosing it and pressing another. */
export function Legend({
  open,
  setOpen,
  own,
  change,
  scoring,
}: {
  open: boolean;
  setOpen: (open: boolean) => void;
  own: OwnKeys;
  /** Null until the keys of this account are known. */
  change: ((own: OwnKeys) => void) | null;
  /** Shows how the match is scored. */
  scoring: () => void;
}) {
  const [asking, setAsking] = useState<string | null>(null);
  return (
    <Sheet
      title="Help: the desk and its keys"
      width="wide"
      open={open}
      aside={
        <>
          <p className="text-slate">To change a key, click it and press the new one.</p>
          {change && Object.keys(own).length > 0 && (
            <button type="button" className="quiet" onClick={() => change({})}>
              Reset all keys
            </button>
          )}
        </>
      }
      setOpen={(now) => {
        setAsking(null);
        setOpen(now);
      }}
      onKeyDown={(event) => {
        if (change === null || asking === null || !/^[a-z0-9]$/i.test(event.key)) return;
        event.preventDefault();
        change(withKey(own, asking, event.key.toLowerCase()));
        setAsking(null);
      }}
    >
      <About own={own} scoring={scoring} />
      <div className="grid gap-x-9 gap-y-4 lg:grid-cols-3">
        {COLUMNS.map(({ group, fixed }) => (
          <section key={group} className="flex flex-col gap-4">
            <div>
              <Title>{GROUPS[group]}</Title>
              <Letters group={group} own={own} asking={asking} ask={change && setAsking} />
            </div>
            <Fixed {...fixed} />
            {fixed === FIXED.eye && <OwnCauses />}
          </section>
        ))}
      </div>
    </Sheet>
  );
}

/** What the desk is. */
const DESK = [
  "Play the clip and log what you see when it happens: one letter is one position or event for your athlete, with Shift for the opponent.",
  "The count at the bottom left of the picture is the three seconds; the sheet on the right is the log, with the score and its reasons.",
];

/** What the desk is, and the ways to more help. */
function About({ own, scoring }: { own: OwnKeys; scoring: () => void }) {
  const card = useMutation({ mutationFn: () => openKeyCard(own) });
  return (
    <div className="grid gap-x-9 gap-y-1 pb-2 text-[15px] lg:grid-cols-2">
      {DESK.map((text) => (
        <p key={text}>{text}</p>
      ))}
      <div className="lg:col-span-2">
        <HelpLinks>
          <button type="button" className="quiet" onClick={scoring}>
            How it is scored here
          </button>
          <button type="button" className="quiet" onClick={() => card.mutate()}>
            {card.isPending ? "Making the key card…" : "Key card (PDF)"}
          </button>
        </HelpLinks>
        <Problem error={card.error} />
      </div>
    </div>
  );
}

function Fixed({ title, rows }: FixedKeys) {
  return (
    <div>
      <Title>{title}</Title>
      <dl className="grid grid-cols-[104px_1fr] text-[15px] leading-snug">
        {rows.map(([keys, words]) => (
          <div key={keys} className="contents">
            <dt className="font-mono font-semibold">{keys}</dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}

/** The causes that digits give to a mark, and how to change them. */
function OwnCauses() {
  const causes = useCauses();
  const [editing, setEditing] = useState(false);
  if (editing) return <EditCauses all={causes} close={() => setEditing(false)} />;
  return (
    <p className="text-[15px]">
      {causes
        .slice(0, DIGITS)
        .map((cause, index) => `${index + 1} ${cause}`)
        .join(", ")}
      .{" "}
      <button type="button" className="quiet" onClick={() => setEditing(true)}>
        Change the causes
      </button>
    </p>
  );
}

function Title({ children }: { children: string }) {
  return <h3 className="mb-1 border-b-2 border-rule pb-0.5 font-semibold">{children}</h3>;
}

function Letters({
  group,
  own,
  asking,
  ask,
}: {
  group: string;
  own: OwnKeys;
  asking: string | null;
  ask: ((name: string) => void) | null;
}) {
  return (
    <ul>
      {LETTERS.filter((one) => one.group === group).map((one) => (
        <li key={one.name} className="grid grid-cols-[46px_1fr] items-baseline gap-2 py-px leading-snug">
          <button
            type="button"
            aria-label={`Change the key for ${one.words}`}
            aria-pressed={asking === one.name}
            disabled={ask === null}
            onClick={() => ask?.(one.name)}
            className={`border px-1.5 font-mono text-[15px] font-semibold uppercase ${asking === one.name ? "border-ink bg-ink text-bone" : own[one.name] ? "border-amber-deep text-amber-deep" : "border-rule"}`}
          >
            {asking === one.name ? "…" : keyOf(one.name, own)}
          </button>
          <span className="text-[15px]">{one.words}</span>
        </li>
      ))}
    </ul>
  );
}
