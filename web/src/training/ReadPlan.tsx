import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, ok, type Plan } from "../api/client";
import { Brand, PaperPage } from "../components/PaperPage";
import { PlanDays } from "../components/PlanDays";
import { Problem } from "../components/Problem";

/** The plan as whoever has the link sees it: on a phone, signed in nowhere. */
export function SharedPlan() {
  const { token = "" } = useParams();
  const queries = useQueryClient();
  const key = ["shared-plan", token];
  const plan = useQuery({
    queryKey: key,
    queryFn: () => ok(api.GET("/api/shared-plans/{token}", { params: { path: { token } } })),
    retry: false,
  });
  const tick = useMutation({
    mutationFn: ({ planned, done }: { planned: number; done: boolean }) =>
      ok(api.PUT("/api/shared-plans/{token}/planned/{planned}", { params: { path: { token, planned } }, body: { done } })),
    onSuccess: (now) => queries.setQueryData(key, now),
  });
  return (
    <div className="paper mx-auto min-h-screen max-w-2xl px-4 pb-12 sm:px-8">
      <header className="border-b-2 border-rule py-3">
        <Brand />
      </header>
      <main>
        {plan.isError && (
          <>
            <h1 className="pt-8 text-2xl font-semibold">This link no longer works</h1>
            <p className="pt-3">It has expired, was revoked or was copied incompletely. Ask your coach for a new one.</p>
          </>
        )}
        {plan.data && (
          <>
            <h1 className="pt-6 pb-1 text-3xl font-semibold">Drills for {plan.data.athlete}</h1>
            <Problem error={tick.error} />
            <PlanDays plan={plan.data} busy={tick.isPending} tick={(planned, done) => tick.mutate({ planned, done })} />
          </>
        )}
      </main>
    </div>
  );
}

/** One's own plans, or one's children's. */
export function OwnPlansPage() {
  const queries = useQueryClient();
  const key = ["own-plans"];
  const plans = useQuery({ queryKey: key, queryFn: () => ok(api.GET("/api/own/plans")) });
  const tick = useMutation({
    mutationFn: ({ plan, planned, done }: { plan: number; planned: number; done: boolean }) =>
      ok(api.PUT("/api/own/plans/{plan}/planned/{planned}", { params: { path: { plan, planned } }, body: { done } })),
    onSuccess: (now) => queries.setQueryData(key, (before: Plan[] = []) => before.map((one) => (one.id === now.id ? now : one))),
  });
  return (
    <PaperPage title="What to drill">
      <Problem error={plans.error ?? tick.error} />
      {plans.data?.length === 0 && <p>No plan yet. It appears here when your coach makes one.</p>}
      {plans.data?.map((plan) => (
        <section key={plan.id} className="max-w-2xl pb-10">
          <h2 className="border-b-2 border-rule pb-1 font-serif text-2xl font-semibold">{plan.athlete}</h2>
          <PlanDays plan={plan} busy={tick.isPending} tick={(planned, done) => tick.mutate({ plan: plan.id, planned, done })} />
        </section>
      ))}
    </PaperPage>
  );
}
