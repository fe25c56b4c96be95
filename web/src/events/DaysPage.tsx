import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { api, ok } from "../api/client";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";
import { dayOf } from "../components/words";
import { DayForm, type DayValues } from "./DayForm";

const KEY = ["event-days"];

/** The days of fights, the latest first. */
export function DaysPage() {
  const days = useQuery({ queryKey: KEY, queryFn: () => ok(api.GET("/api/event-days")) });
  const navigate = useNavigate();
  const add = useDoing(KEY, async (body: DayValues) => {
    const made = await ok(api.POST("/api/event-days", { body }));
    void navigate(`/days/${made.id}`);
  });
  return (
    <PaperPage title="Event days">
      <div className="grid gap-x-12 gap-y-8 md:grid-cols-[1fr_320px]">
        <div>
          <Problem error={days.error} />
          {days.data?.length === 0 && <p>No day yet. Add the next one: who fights when, on which mat, under which rules.</p>}
          <ul className="border-t-2 border-rule empty:hidden">
            {days.data?.map((one) => (
              <li key={one.id} className="flex items-baseline gap-4 border-b border-rule py-3">
                <Link className="font-serif text-xl hover:underline" to={`/days/${one.id}`}>
                  {one.name}
                </Link>
                <span className="text-slate">{dayOf(one.date)}</span>
              </li>
            ))}
          </ul>
        </div>
        <section>
          <h2 className="mb-3 border-b-2 border-rule pb-1 font-serif text-xl font-semibold">A new day</h2>
          <DayForm act="Add the day" error={add.error} busy={add.isPending} submit={(values) => add.mutate(values)} />
        </section>
      </div>
    </PaperPage>
  );
}
