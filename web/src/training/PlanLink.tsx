import { useState } from "react";
import { api, ok, type PlanOfAthlete } from "../api/client";
import { NewLink } from "../components/NewLink";
import { Field, OneForm } from "../components/OneForm";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";
import { dayOf } from "../components/words";

/** A link that shows the plan, and nothing else, to whoever has it. */
export function PlanLink({ plan, shown }: { plan: PlanOfAthlete; shown: string[] }) {
  const [token, setToken] = useState<string | null>(null);
  const params = { path: { plan: plan.id } };
  const make = useDoing(shown, async (days: number) => {
    const made = await ok(api.POST("/api/plans/{plan}/link", { params, body: { days } }));
    setToken(made.token);
  });
  const end = useDoing<undefined>(shown, async () => {
    await ok(api.DELETE("/api/plans/{plan}/link", { params }));
    setToken(null);
  });
  const address = token && `${window.location.origin}/p/${token}`;
  return (
    <section>
      <h3 className="mb-3 border-b-2 border-rule pb-1 font-serif text-xl font-semibold">Send it</h3>
      <p className="pb-3">
        The athlete finds the plan under Reports. Someone without a sign-in gets a link: it shows the plan alone, and drills can be ticked
        off there.
      </p>
      {plan.link_ends && (
        <p className="pb-3">
          A link works until {dayOf(plan.link_ends)}.{" "}
          <button type="button" className="quiet" onClick={() => end.mutate(undefined)}>
            Revoke it
          </button>
        </p>
      )}
      {address && <NewLink key={address} address={address} />}
      <OneForm
        act={plan.link_ends ? "Make another link" : "Make a link"}
        busy={make.isPending}
        error={null}
        submit={(said) => make.mutate(Number(said.days))}
      >
        <Field text="Works for days" name="days" type="number" min={1} max={366} defaultValue={14} />
      </OneForm>
      <Problem error={make.error ?? end.error} />
    </section>
  );
}
