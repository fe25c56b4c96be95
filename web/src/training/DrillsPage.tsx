import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type DrillOfLibrary, type NewDrill, ok } from "../api/client";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { Sheet } from "../components/Sheet";
import { useDoing } from "../components/useDoing";
import { POSITION_WORDS } from "../components/words";
import { DrillForm } from "./DrillForm";

const KEY = ["drills"];
const EMPTY: NewDrill = { name: "", about: "", minutes: 8, kinds: [], causes: [], positions: [] };

/** The club's library of drills, and what each is for. */
export function DrillsPage() {
  const drills = useQuery({ queryKey: KEY, queryFn: () => ok(api.GET("/api/drills")) });
  const kinds = useQuery({ queryKey: ["kinds"], queryFn: () => ok(api.GET("/api/kinds")) });
  const examples = useDoing<undefined>(KEY, () => ok(api.POST("/api/drills/examples")));
  const [editing, setEditing] = useState<DrillOfLibrary | "new" | null>(null);
  const all = kinds.data?.flatMap((one) => [one, ...one.parts]) ?? [];
  const names = new Map(all.map((one) => [one.kind, one.name]));
  const found = drills.data ?? [];
  return (
    <PaperPage
      title="Drills"
      aside={
        <button type="button" className="act" onClick={() => setEditing("new")}>
          Add a drill
        </button>
      }
    >
      <p className="max-w-3xl pb-5 text-slate">
        What a drill is for decides when it is proposed: plans choose from here what helps against the errors that cost an athlete most.
      </p>
      <Problem error={drills.error ?? kinds.error ?? examples.error} />
      {drills.data?.length === 0 && (
        <p>
          No drills yet. Add your own, or{" "}
          <button type="button" className="quiet" disabled={examples.isPending} onClick={() => examples.mutate(undefined)}>
            start with the examples
          </button>{" "}
          and change them.
        </p>
      )}
      <ul className="border-t-2 border-rule empty:hidden">
        {found.map((one) => (
          <OneDrill key={one.id} drill={one} names={names} edit={() => setEditing(one)} />
        ))}
      </ul>
      <Sheet
        title={editing === "new" ? "A new drill" : "Change the drill"}
        width="middle"
        back="Back to the drills"
        open={editing !== null}
        setOpen={() => setEditing(null)}
      >
        {editing && (
          <DrillForm
            drill={editing === "new" ? EMPTY : editing}
            id={editing === "new" ? null : editing.id}
            kinds={all}
            done={() => setEditing(null)}
          />
        )}
      </Sheet>
    </PaperPage>
  );
}

function OneDrill({ drill, names, edit }: { drill: DrillOfLibrary; names: Map<string, string>; edit: () => void }) {
  const archive = useDoing<undefined>(KEY, () => ok(api.DELETE("/api/drills/{drill}", { params: { path: { drill: drill.id } } })));
  const uses = [
    drill.kinds.map((kind) => names.get(kind) ?? kind).join(", "),
    drill.causes.length > 0 && `causes: ${drill.causes.join(", ")}`,
    drill.positions.length > 0 && `positions: ${drill.positions.map((one) => POSITION_WORDS[one]).join(", ")}`,
  ].filter(Boolean);
  return (
    <li className="grid gap-x-6 border-b border-rule py-3 sm:grid-cols-[1fr_auto]">
      <div>
        <span className="font-serif text-xl">{drill.name}</span> <span className="text-slate">{drill.minutes} min</span>
        <p>{drill.about}</p>
        <p className="text-slate">{uses.length ? `For: ${uses.join("; ")}.` : "It is for nothing yet, so it is never proposed."}</p>
      </div>
      <span className="flex items-baseline gap-4">
        <button type="button" className="quiet" aria-label={`Change ${drill.name}`} onClick={edit}>
          Change
        </button>
        <button type="button" className="quiet" aria-label={`Remove ${drill.name}`} onClick={() => archive.mutate(undefined)}>
          Remove
        </button>
      </span>
      <Problem error={archive.error} />
    </li>
  );
}
