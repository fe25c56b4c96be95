import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { api, type Finding, ok, type Review } from "../api/client";
import { exchangeAt } from "../components/clockAt";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { ScoreHead } from "../components/ScoreHead";
import { Spine } from "../components/Spine";
import { clock, held, named } from "../components/words";

export function ReviewPage() {
  const { id = "" } = useParams();
  const review = useQuery({
    queryKey: ["review", id],
    queryFn: () => ok(api.GET("/api/matches/{match}/review", { params: { path: { match: id } } })),
    staleTime: 0,
  });
  if (!review.data) {
    return (
      <PaperPage title="Review">
        {review.isPending && <p className="text-slate">Reading the match…</p>}
        <Problem error={review.error} />
      </PaperPage>
    );
  }
  return <Reviewed review={review.data} />;
}

const GROUPS: { kind: Finding["kind"]; title: string; none: string }[] = [
  { kind: "miss", title: "Reached and not held", none: "Nothing was reached and lost." },
  { kind: "concession", title: "Given to the opponent", none: "Nothing was given away." },
  { kind: "penalty", title: "Penalties", none: "No penalty." },
  { kind: "illegal", title: "Illegal or stopped techniques", none: "None." },
];

function Reviewed({ review }: { review: Review }) {
  const { match, verdict, findings } = review;
  const parts = review.parts.filter((part) => part.clip.state === "ready");
  const video = useRef<HTMLVideoElement>(null);
  const [t, setT] = useState(0);
  const [at, setAt] = useState(0);
  const wanted = useRef<number | null>(null);
  const part = parts[at] ?? parts[0];
  const play = (local: number) => {
    if (!video.current) return;
    video.current.currentTime = local;
    void video.current.play().catch(() => undefined);
    video.current.scrollIntoView({ block: "nearest" });
  };
  const show = (start: number) => {
    setT(start);
    const to = Math.max(0, parts.filter((one) => one.start <= start).length - 1);
    const local = Math.max(0, start - (parts[to]?.start ?? 0));
    if (to === at) play(local);
    else {
      wanted.current = local;
      setAt(to);
    }
  };
  return (
    <PaperPage title={`${match.athlete_name} against ${match.opponent}`}
      aside={<span className="flex gap-5"><Link className="quiet" to={`/matches/${match.id}`}>Open the desk</Link><a className="quiet" href={`/api/matches/${match.id}/log`} download>Save the log as a file</a></span>}>
      <p className="-mt-4 mb-5 text-slate">{[match.event, match.date, match.ruleset_title, `${match.belt} belt, ${match.age} years`].filter(Boolean).join(" · ")}</p>
      <div className="grid gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1fr)_420px]">
        <div className="min-w-0 lg:row-span-2">
          <p className="mb-5 max-w-[34ch] font-serif text-[26px] leading-snug">{named(verdict.because, match)}</p>
          {GROUPS.map(({ kind, title, none }) => {
            const rows = findings.filter((finding) => finding.kind === kind);
            return (
              <section key={kind} className="mb-6">
                <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">{title}</h2>
                {rows.length === 0 ? <p className="py-2 text-slate">{none}</p> : (
                  <ol>{rows.map((finding) => <Row key={`${finding.t}${finding.title}${finding.because}`} finding={finding} show={show} clip={part !== undefined} />)}</ol>
                )}
              </section>
            );
          })}
          <p className="border-t-2 border-rule pt-3 text-slate">
            This is scored from footage. The event&rsquo;s own rulebook and its referees decide; a technique marked illegal
            is one to leave alone in training too, and an injury belongs before the event&rsquo;s medical staff.
          </p>
        </div>
        <div className="order-first flex flex-col gap-4 lg:order-none lg:sticky lg:top-2 lg:z-10 lg:self-start lg:bg-paper lg:pb-3">
          {part && (
            <video key={part.clip.id} ref={video} src={`/api/clips/${part.clip.id}/content`} controls muted playsInline preload="metadata" aria-label="Footage of the match"
              className="aspect-video w-full bg-night" onTimeUpdate={(event) => setT(part.start + event.currentTarget.currentTime)}
              onLoadedMetadata={() => {
                if (wanted.current !== null) play(wanted.current);
                wanted.current = null;
              }} />
          )}
          <ScoreHead score={verdict.score} athlete={match.athlete_name} opponent={match.opponent} tone="paper" />
        </div>
        <div className="min-w-0">
          <h2 className="mb-3 border-b-2 border-rule pb-1 text-xl font-semibold">The match, exchange by exchange</h2>
          <Spine verdict={verdict} observations={[]} current={exchangeAt(verdict, t)} tone="paper" seek={show} openAll />
        </div>
      </div>
    </PaperPage>
  );
}

function Row({ finding, show, clip }: { finding: Finding; show: (t: number) => void; clip: boolean }) {
  return (
    <li className="grid grid-cols-[64px_1fr] gap-x-3 border-b border-rule py-3">
      <span className="text-xl font-semibold">{clock(finding.clock)}</span>
      <div className="min-w-0">
        <p className="flex flex-wrap items-baseline justify-between gap-x-4">
          <b className="text-lg">{finding.title}</b>
          <span className="text-amber-deep">{finding.cost}</span>
        </p>
        <p>{finding.because}</p>
        {finding.held !== null && finding.needed !== null && <HeldBar held={finding.held} needed={finding.needed} />}
        {clip && <button type="button" className="quiet mt-1" onClick={() => show(finding.start)}>Show it</button>}
      </div>
    </li>
  );
}

/** How long it was held of how long it had to be. */
function HeldBar({ held: long, needed }: { held: number; needed: number }) {
  return (
    <span className="mt-1.5 flex items-center gap-3" role="img" aria-label={`held ${held(long)} of ${held(needed)}`}>
      <span className="relative h-3 w-48 bg-rule">
        <span className="absolute inset-y-0 left-0 bg-amber" style={{ width: `${(long / needed) * 100}%` }} />
        {[1, 2].map((third) => <span key={third} className="absolute inset-y-0 w-0.5 bg-paper" style={{ left: `${(third / 3) * 100}%` }} />)}
      </span>
      <span>{held(long)} of {held(needed)}</span>
    </span>
  );
}
