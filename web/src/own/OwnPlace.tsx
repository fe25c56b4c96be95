import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ok, type OwnAthlete } from "../api/client";
import { useSession } from "../api/session";
import { Confirm } from "../components/Confirm";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { dayOf } from "../components/words";

/** The place of an athlete, or of a guardian: the matches about them, the reports that were sent, and consent. */
export function OwnPlace() {
  const own = useQuery({ queryKey: ["own"], queryFn: () => ok(api.GET("/api/own")) });
  return (
    <PaperPage title="Reports for you">
      <Problem error={own.error} />
      {own.data?.length === 0 && <p>No athlete is linked to your account yet. Ask a head coach of your club.</p>}
      {own.data?.map((athlete) => (
        <OneAthlete key={athlete.id} athlete={athlete} />
      ))}
    </PaperPage>
  );
}

function OneAthlete({ athlete }: { athlete: OwnAthlete }) {
  const sent = athlete.matches.filter((one) => one.sent);
  const others = athlete.matches.filter((one) => !one.sent);
  return (
    <section className="mb-10 max-w-3xl">
      <h2 className="border-b-2 border-rule pb-1 font-serif text-2xl font-semibold">
        {athlete.name} <span className="font-normal text-slate">at {athlete.club}</span>
      </h2>
      <p className="pt-3">
        <Link className="quiet" to="/own/plans">
          What to drill
        </Link>
      </p>
      {athlete.matches.length > 0 && (
        <p className="pt-1">
          <Link className="quiet" to={`/own/season/${athlete.id}`}>
            The season: what works, and what comes back
          </Link>
        </p>
      )}
      {sent.length === 0 && <p className="py-3 text-slate">No report was sent yet. It appears here when the coach sends it.</p>}
      <ul>
        {sent.map((match) => (
          <li key={match.id} className="border-b border-rule py-3">
            <Link to={`/own/reports/${match.id}`} className="font-serif text-xl hover:underline">
              against {match.opponent}
            </Link>
            <p className="text-slate">{[match.event, dayOf(match.date)].filter(Boolean).join(", ")}</p>
            <p>{match.because}</p>
          </li>
        ))}
      </ul>
      {others.length > 0 && (
        <>
          <h3 className="mt-5 font-semibold">Other matches</h3>
          <ul>
            {others.map((match) => (
              <li key={match.id} className="border-b border-rule py-2">
                against {match.opponent}, <span className="text-slate">{[match.event, dayOf(match.date)].filter(Boolean).join(", ")}</span>
                <span className="block">{match.because}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {athlete.child && <Consent athlete={athlete} />}
      <Kept athlete={athlete} />
    </section>
  );
}

/** What a guardian agrees to, and takes back. */
function Consent({ athlete }: { athlete: OwnAthlete }) {
  const queries = useQueryClient();
  const path = { params: { path: { athlete: athlete.id } } };
  const kept = (now: OwnAthlete[]) => queries.setQueryData(["own"], now);
  const give = useMutation({ mutationFn: () => ok(api.POST("/api/own/athletes/{athlete}/consent", path)), onSuccess: kept });
  const withdraw = useMutation({ mutationFn: () => ok(api.DELETE("/api/own/athletes/{athlete}/consent", path)), onSuccess: kept });
  const { consent } = athlete;
  return (
    <section className="mt-6 border-l-4 border-amber-deep pl-4">
      <h3 className="font-semibold">Links to reports</h3>
      <p className="my-2">“{consent.text}”</p>
      <Problem error={give.error ?? withdraw.error} />
      {consent.since ? (
        <p>
          {consent.name} agreed on {dayOf(consent.since)}.{" "}
          {!athlete.oneself && (
            <Confirm
              trigger="Take it back"
              title="Take the consent back?"
              act="Take it back"
              run={() => withdraw.mutate()}
              error={withdraw.error}
            >
              Every link to a report about {athlete.name} ends at once. You can agree again at any time.
            </Confirm>
          )}
        </p>
      ) : athlete.oneself ? (
        <p className="text-slate">No guardian has agreed to this. Without it, the coach can&rsquo;t send links.</p>
      ) : (
        <button type="button" className="act" disabled={give.isPending} onClick={() => give.mutate()}>
          I agree
        </button>
      )}
    </section>
  );
}

/** What is kept, for how long, and who sees it, in words for parents. */
function Kept({ athlete }: { athlete: OwnAthlete }) {
  const session = useSession().data;
  const who = athlete.child
    ? athlete.coaches.length
      ? `The coaches named for ${athlete.name}: ${athlete.coaches.join(", ")}. The guardians see the reports that were sent. No one else in the club does.`
      : `No coach is named for ${athlete.name} at the moment, so no one in the club sees the footage.`
    : `The coaches of ${athlete.club}, and whoever they ask to score a match.`;
  return (
    <details className="mt-6">
      <summary className="cursor-pointer font-semibold">What is kept, and who sees it</summary>
      <dl className="mt-2 grid gap-x-6 gap-y-2 sm:grid-cols-[11rem_1fr]">
        <dt className="text-slate">What is kept</dt>
        <dd>Name, year of birth and belt; clips of matches; what was seen in them, the score, and the coach&rsquo;s notes and reports.</dd>
        <dt className="text-slate">Who sees it</dt>
        <dd>{who}</dd>
        <dt className="text-slate">For how long</dt>
        <dd>
          As long as the club keeps the match. A deleted match can be restored for 30 days, then it is removed. You can have everything
          about {athlete.name} exported, or deleted within 30 days, under{" "}
          <Link className="quiet" to="/account">
            Your account
          </Link>
          . Backups hold what was deleted for up to {session?.backup_days} days more.
        </dd>
        <dt className="text-slate">Outside the club</dt>
        <dd>
          Only who has a link to a report, until the link ends.
          {athlete.child && " Links about a child need a guardian's consent, show first names only, and end within 14 days."}
        </dd>
      </dl>
    </details>
  );
}
