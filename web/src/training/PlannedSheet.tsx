import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type DrillOfLibrary, ok, type PlanOfAthlete } from "../api/client";
import { Label } from "../components/fields";
import { Problem } from "../components/Problem";
import { Sheet } from "../components/Sheet";
import { useDoing } from "../components/useDoing";
import type { PlannedDrill } from "./Board";

/** One drill of a plan: read, ticked off, moved to a day, removed; or a new one put on a day. */
export function PlannedSheet({
  plan,
  one,
  day,
  wanted,
  shown,
  close,
}: {
  plan: PlanOfAthlete;
  /** Null: a new one. */
  one: PlannedDrill | null;
  day: string;
  wanted: { drill: number }[];
  shown: string[];
  close: () => void;
}) {
  const drills = useQuery({ queryKey: ["drills"], queryFn: () => ok(api.GET("/api/drills")) });
  const [on, setOn] = useState(day);
  const [drill, setDrill] = useState(String(wanted[0]?.drill ?? ""));
  const { put, tick, remove } = useActs(plan.id, one, shown, close);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    put.mutate({ drill: Number(drill || drills.data?.[0]?.id), day: on });
  };
  return (
    <Sheet title={one ? one.name : "Add a drill"} width="narrow" back="Back to the plan" open setOpen={close}>
      {one && (
        <p className="pb-4">
          {one.minutes} min. {one.about}
        </p>
      )}
      <form onSubmit={submit} className="flex flex-col gap-4">
        {!one && <Which drills={drills.data ?? []} drill={drill} setDrill={setDrill} />}
        <Label text="Day">
          <input className="field" type="date" required value={on} onChange={(event) => setOn(event.target.value)} />
        </Label>
        <Problem error={put.error ?? tick.error ?? remove.error} />
        <div className="flex flex-wrap gap-5">
          <button type="submit" className="act" disabled={put.isPending}>
            {one ? "Move it there" : "Add it"}
          </button>
          {one && (
            <>
              <button type="button" className="act" onClick={() => tick.mutate(!one.done)}>
                {one.done ? "Not done after all" : "Tick it off"}
              </button>
              <button type="button" className="quiet" onClick={() => remove.mutate(undefined)}>
                Remove it from the plan
              </button>
            </>
          )}
        </div>
      </form>
    </Sheet>
  );
}

function Which({ drills, drill, setDrill }: { drills: DrillOfLibrary[]; drill: string; setDrill: (drill: string) => void }) {
  return (
    <Label text="Drill">
      <select className="field" value={drill} onChange={(event) => setDrill(event.target.value)}>
        {drills.map((each) => (
          <option key={each.id} value={each.id}>
            {each.name}, {each.minutes} min
          </option>
        ))}
      </select>
    </Label>
  );
}

/** What is done with a drill of a plan; null: one that is not in it yet. */
function useActs(plan: number, one: PlannedDrill | null, shown: string[], close: () => void) {
  const params = { path: { plan, planned: one?.id ?? 0 } };
  const put = useDoing(shown, async ({ drill, day }: { drill: number; day: string }) => {
    if (one) await ok(api.PUT("/api/plans/{plan}/planned/{planned}", { params, body: { day } }));
    else await ok(api.POST("/api/plans/{plan}/planned", { params: { path: { plan } }, body: { drill, day } }));
    close();
  });
  const tick = useDoing(shown, async (done: boolean) => {
    await ok(api.PUT("/api/plans/{plan}/planned/{planned}", { params, body: { done } }));
    close();
  });
  const remove = useDoing<undefined>(shown, async () => {
    await ok(api.DELETE("/api/plans/{plan}/planned/{planned}", { params }));
    close();
  });
  return { put, tick, remove };
}
