import { api, ok } from "../api/client";
import { Field, OneForm } from "../components/OneForm";
import { useDoing } from "../components/useDoing";
import { Link } from "react-router";

const WEEKS = 6;
const DAY_MS = 86_400_000;

function inDays(days: number): string {
  return new Date(Date.now() + days * DAY_MS).toISOString().slice(0, 10);
}

interface Wanted {
  drill: number;
  name: string;
  minutes: number;
  because: string;
}

/** What would help now, and a form for a plan that is proposed from it. */
export function NewPlan({
  athlete,
  wanted,
  shown,
  first,
}: {
  athlete: number;
  wanted: Wanted[];
  shown: string[];
  /** Whether there is no plan yet. */
  first: boolean;
}) {
  const make = useDoing(shown, (said: Record<string, string>) =>
    ok(
      api.POST("/api/athletes/{id}/plans", {
        params: { path: { id: athlete } },
        body: {
          event: said.event ?? "",
          start: said.start ?? "",
          until: said.until ?? "",
          sessions: Number(said.sessions),
          minutes: Number(said.minutes),
        },
      }),
    ),
  );
  return (
    <section className="grid gap-x-12 gap-y-8 md:grid-cols-2">
      <Helps wanted={wanted} />
      <div>
        <h2 className="mb-3 border-b-2 border-rule pb-1 font-serif text-2xl font-semibold">{first ? "A plan" : "A new plan"}</h2>
        <OneForm act="Propose a plan" busy={make.isPending} error={make.error} submit={(said) => make.mutate(said)}>
          <Field text="Next event" name="event" required={false} maxLength={120} />
          <div className="grid gap-4 sm:grid-cols-2">
            <Field text="From" name="start" type="date" defaultValue={inDays(0)} />
            <Field text="Until the day of the event" name="until" type="date" defaultValue={inDays(WEEKS * 7)} />
            <Field text="Sessions a week" name="sessions" type="number" min={1} max={7} defaultValue={3} />
            <Field text="Minutes for drills in each" name="minutes" type="number" min={5} max={240} defaultValue={20} />
          </div>
        </OneForm>
        <p className="pt-3 text-slate">
          What costs most comes first. Each drill comes back in growing intervals; two at most are new in a session.
        </p>
      </div>
    </section>
  );
}

function Helps({ wanted }: { wanted: Wanted[] }) {
  return (
    <div>
      <h2 className="border-b-2 border-rule pb-1 font-serif text-2xl font-semibold">What would help now</h2>
      {wanted.length === 0 && (
        <p className="pt-3">
          No drill in the{" "}
          <Link className="quiet" to="/drills">
            library
          </Link>{" "}
          is for an error of these matches. Score a match first, or say in the library what each drill is for.
        </p>
      )}
      <ol>
        {wanted.slice(0, 6).map((one) => (
          <li key={one.drill} className="border-b border-rule py-2">
            <b>{one.name}</b> <span className="text-slate">{one.minutes} min</span>
            <span className="block text-slate">{one.because}.</span>
          </li>
        ))}
      </ol>
    </div>
  );
}
