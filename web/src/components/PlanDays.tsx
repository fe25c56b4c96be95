import type { Plan } from "../api/client";
import { dayOf, today as dayNow } from "./words";

const WEEKDAY = new Intl.DateTimeFormat(undefined, { weekday: "long" });

/** The weekday and the day, as they are read. */
export function weekdayOf(day: string): string {
  return `${WEEKDAY.format(new Date(`${day}T12:00`))}, ${dayOf(day)}`;
}

/** A plan day by day, with boxes to tick off what was drilled. */
export function PlanDays({ plan, tick, busy }: { plan: Plan; tick: (planned: number, done: boolean) => void; busy: boolean }) {
  const today = dayNow();
  return (
    <>
      <p className="text-slate">
        {plan.event ? `${plan.event}, ` : ""}until {dayOf(plan.until)}. {plan.done} of {plan.of} done.
      </p>
      {plan.days.map(({ day, planned }) => (
        <section key={day} className={day < today && planned.every((one) => one.done) ? "opacity-70" : ""}>
          <h3 className="mt-4 border-b border-rule font-semibold">
            {weekdayOf(day)}
            {day === today && <b className="ml-2 bg-amber px-1.5 text-ink">today</b>}
          </h3>
          <ul>
            {planned.map((one) => (
              <li key={one.id} className="py-1.5">
                <label className="flex items-baseline gap-3">
                  <input
                    type="checkbox"
                    className="size-4 accent-amber-deep"
                    checked={one.done}
                    disabled={busy}
                    onChange={(event) => tick(one.id, event.target.checked)}
                  />
                  <span className={one.done ? "line-through decoration-slate" : ""}>
                    <b>{one.name}</b> <span className="text-slate">{one.minutes} min</span>
                    <span className="block">{one.about}</span>
                  </span>
                </label>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </>
  );
}
