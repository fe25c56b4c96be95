import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { api, ok, type PlanOfAthlete } from "../api/client";
import { Confirm } from "../components/Confirm";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";
import { dayOf } from "../components/words";
import { Board, type PlannedDrill } from "./Board";
import { NewPlan } from "./NewPlan";
import { PlannedSheet } from "./PlannedSheet";
import { PlanLink } from "./PlanLink";

/** The plans of an athlete: what would help, what is drilled when, and whether it helped. */
export function PlanPage() {
  const { id = "" } = useParams();
  const key = ["plans", id];
  const plans = useQuery({
    queryKey: key,
    queryFn: () => ok(api.GET("/api/athletes/{id}/plans", { params: { path: { id: Number(id) } } })),
  });
  const found = plans.data;
  const [now, ...earlier] = found?.plans ?? [];
  return (
    <PaperPage
      title={found ? `Drills for ${found.athlete.name}` : "Drills"}
      aside={
        <span className="flex gap-5">
          <Link className="quiet" to={`/athletes/${id}`}>
            The season
          </Link>
          <Link className="quiet" to="/drills">
            The club&rsquo;s drills
          </Link>
        </span>
      }
    >
      <Problem error={plans.error} />
      {found && (
        <div className="flex flex-col gap-10">
          {now && <OnePlan key={now.id} plan={now} wanted={found.wanted} shown={key} />}
          <NewPlan athlete={Number(id)} wanted={found.wanted} shown={key} first={!now} />
          {earlier.length > 0 && <Earlier plans={earlier} />}
        </div>
      )}
    </PaperPage>
  );
}

type Wanted = { drill: number; name: string; minutes: number; because: string }[];

function OnePlan({ plan, wanted, shown }: { plan: PlanOfAthlete; wanted: Wanted; shown: string[] }) {
  const [opened, setOpened] = useState<{ one: PlannedDrill | null; day: string } | null>(null);
  const move = useDoing(shown, ({ planned, day }: { planned: number; day: string }) =>
    ok(api.PUT("/api/plans/{plan}/planned/{planned}", { params: { path: { plan: plan.id, planned } }, body: { day } })),
  );
  const remove = useDoing<undefined>(shown, () => ok(api.DELETE("/api/plans/{plan}", { params: { path: { plan: plan.id } } })));
  return (
    <section>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-5 border-b-2 border-rule pb-1">
        <h2 className="font-serif text-2xl font-semibold">
          {plan.event || "The plan"} <span className="font-normal text-slate">until {dayOf(plan.until)}</span>
        </h2>
        <span className="text-slate">
          {plan.done} of {plan.of} done
        </span>
        <span className="ml-auto flex gap-5">
          <button type="button" className="quiet" onClick={() => setOpened({ one: null, day: plan.start })}>
            Add a drill
          </button>
          <a className="quiet" href={`/api/plans/${plan.id}/pdf`} target="_blank" rel="noreferrer">
            Print
          </a>
          <Confirm
            trigger="Delete"
            label="Delete the plan"
            title="Delete this plan?"
            act="Delete"
            run={() => remove.mutate(undefined)}
            error={remove.error}
          >
            What was ticked off goes with it.
          </Confirm>
        </span>
      </div>
      <Problem error={move.error} />
      {plan.of === 0 && <p className="pb-2">No drill in the library is for the errors of these matches. Add drills to a day yourself.</p>}
      <p className="pb-3 text-slate">Drag a drill to another day, or click it to read, tick, move or remove it.</p>
      <Board plan={plan} move={(planned, day) => move.mutate({ planned, day })} open={(one, day) => setOpened({ one, day })} />
      <div className="grid gap-x-12 gap-y-8 pt-8 md:grid-cols-2">
        <Effects plan={plan} />
        <PlanLink plan={plan} shown={shown} />
      </div>
      {opened && (
        <PlannedSheet key={opened.one?.id ?? "new"} plan={plan} {...opened} wanted={wanted} shown={shown} close={() => setOpened(null)} />
      )}
    </section>
  );
}

/** What became of the errors that each drill is for. */
function Effects({ plan }: { plan: PlanOfAthlete }) {
  const waits = plan.effects.length > 0 && plan.effects.every((one) => one.since === 0);
  return (
    <section>
      <h3 className="border-b-2 border-rule pb-1 font-serif text-xl font-semibold">Did it help?</h3>
      {plan.effects.length === 0 && <p className="pt-2">Nothing is planned yet.</p>}
      {waits && <p className="pt-2">No match since {dayOf(plan.start)}. This fills in once the next ones are scored.</p>}
      <ul>
        {(waits ? [] : plan.effects).map((one) => (
          <li key={one.drill} className="border-b border-rule py-2">
            <b>{one.name}.</b> The errors it is for: {one.said}.
          </li>
        ))}
      </ul>
    </section>
  );
}

function Earlier({ plans }: { plans: PlanOfAthlete[] }) {
  return (
    <section>
      <h2 className="border-b-2 border-rule pb-1 font-serif text-2xl font-semibold">Earlier plans</h2>
      {plans.map((plan) => (
        <details key={plan.id} className="border-b border-rule py-2">
          <summary className="cursor-pointer">
            {plan.event || "A plan"}, {dayOf(plan.start)} to {dayOf(plan.until)}: {plan.done} of {plan.of} done
          </summary>
          <Effects plan={plan} />
        </details>
      ))}
    </section>
  );
}
