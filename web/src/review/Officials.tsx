import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, type Audit, type Comparison, ok, type Review } from "../api/client";
import { Figures } from "../components/Figures";
import { clockAt } from "../components/timeline";
import { Problem } from "../components/Problem";
import { clock, named } from "../components/words";

const STANDING: Record<Comparison["lines"][number]["standing"], string> = {
  agreed: "agreed",
  differently: "called differently",
  not_called: "not called",
  not_awarded: "not in your score",
};

/** The officials' calls against the score, and what to ask about them. */
export function Officials({ review, comparison, show }: { review: Review; comparison: Audit | undefined; show: (t: number) => void }) {
  const { match } = review;
  const lines = comparison?.lines ?? [];
  const called = lines.some((line) => line.call !== null);
  if (comparison && !called) {
    return (
      <p className="max-w-prose">
        No officials' calls are known for this match. Have the scoreboard in the clip read at the desk, or log the calls there; this page
        then shows where they differ from your score and what to ask.
      </p>
    );
  }
  return (
    <div className="grid gap-8">
      {comparison && comparison.unlogged.length > 0 && (
        <p>
          {comparison.unlogged.length} of the calls {comparison.unlogged.length === 1 ? "was" : "were"} read from the scoreboard in the clip
          and not taken into the log yet.{" "}
          <Link to={`/matches/${match.id}`} className="quiet">
            Take them at the desk
          </Link>
        </p>
      )}
      <ToAsk match={match} show={show} />
      {comparison && <LineByLine review={review} audit={comparison} show={show} />}
      {comparison && <Figures comparison={comparison} />}
    </div>
  );
}

/** What to ask the officials at the event, on the screen and on paper. */
function ToAsk({ match, show }: { match: Review["match"]; show: (t: number) => void }) {
  const questions = useQuery({
    queryKey: ["questions", match.id],
    queryFn: () => ok(api.GET("/api/matches/{match}/questions", { params: { path: { match: match.id } } })),
    staleTime: 0,
  });
  return (
    <section>
      <div className="flex flex-wrap items-baseline justify-between gap-4 border-b-2 border-rule pb-1">
        <h2 className="text-xl font-semibold">To ask at the event</h2>
        <span className="flex gap-5">
          <a className="quiet" href={`/api/matches/${match.id}/questions/html`} target="_blank" rel="noreferrer">
            As a page
          </a>
          <a className="quiet" href={`/api/matches/${match.id}/questions/pdf`} target="_blank" rel="noreferrer">
            To print (PDF)
          </a>
        </span>
      </div>
      <ul>
        {questions.data?.questions.map((one) => (
          <li key={`${one.t}${one.text}`} className="flex items-baseline gap-4 border-b border-rule py-2">
            <span aria-hidden className="mt-1 h-3.5 w-3.5 shrink-0 translate-y-0.5 border-2 border-ink" />
            <span className="flex-1">{named(one.text, match)}</span>
            <button type="button" className="quiet" onClick={() => show(one.t - 6)}>
              Show it
            </button>
          </li>
        ))}
      </ul>
      {questions.data?.questions.length === 0 && <p className="py-2 text-slate">Nothing to ask: your score matches every call.</p>}
      <Problem error={questions.error} />
    </section>
  );
}

/** The scoreboard as it was when a call was read from it. */
function Evidence({ audit, call }: { audit: Audit; call: NonNullable<Audit["lines"][number]["call"]> }) {
  const picture = call.observations.map((key) => audit.pictures[String(key)]).find((one) => one !== undefined);
  return picture ? <img src={picture} alt="The scoreboard at this call" loading="lazy" className="mt-1 block max-h-24" /> : null;
}

/** Each call with the award that it agrees with or differs from. */
function LineByLine({ review, audit, show }: { review: Review; audit: Audit; show: (t: number) => void }) {
  return (
    <section>
      <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">Line by line</h2>
      <ul>
        {audit.lines.map((line, index) => {
          const t = Math.min(...[line.award, line.call].flatMap((entry) => (entry ? [entry.t] : [])));
          return (
            <li
              key={index}
              className={`grid grid-cols-[52px_130px_1fr] items-baseline gap-3 border-b border-rule py-1.5 ${line.standing === "agreed" ? "text-slate" : ""}`}
            >
              <button type="button" className="quiet text-left" onClick={() => show(t - 6)}>
                {clock(clockAt(review.verdict, t)?.clock ?? 0)}
              </button>
              <span className={line.standing === "agreed" ? "" : "font-semibold text-alarm"}>{STANDING[line.standing]}</span>
              <span>
                {named(line.because, review.match)}
                {line.call && <Evidence audit={audit} call={line.call} />}
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
