import { useQuery } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { type ReactNode, useCallback, useRef, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { api, type Cut, ok, type PictureMark, type Review, type Spread } from "../api/client";
import { clockAt, pointsAt } from "../components/timeline";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { ScoreHead } from "../components/ScoreHead";
import { named, dayOf } from "../components/words";
import type { Keyed } from "../api/client";
import { ChanceChart } from "./ChanceChart";
import { Deciding } from "./Deciding";
import { ErrorList, type Showing } from "./ErrorList";
import { MatchLine } from "./MatchLine";
import { Notes } from "./Notes";
import { Now } from "./Now";
import { Officials } from "./Officials";
import { OtherRules } from "./OtherRules";
import { Marked } from "./Marked";
import { Player, type Shown, type Stretch, type Tool } from "./Player";
import { Send } from "./Send";
import { useCuts, useNotes, useProspects, useReview, useSpread } from "./useReview";
import { PlannedTries, Stopped, Weighed } from "./Counted";
import { Well } from "./Well";

export function ReviewPage() {
  const { id = "" } = useParams();
  const review = useReview(id);
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

const PARTS = {
  errors: "The review",
  match: "The match",
  officials: "Officials",
  rules: "Under other rules",
  notes: "Notes",
  send: "Report",
} as const;
type PartName = keyof typeof PARTS;

/** Which part of the review is open, as the address says it. */
function usePart(): [PartName, (part: PartName, replace?: boolean) => void] {
  const [address, setAddress] = useSearchParams();
  const asked = address.get("part");
  const part = asked !== null && asked in PARTS ? (asked as PartName) : "errors";
  return [part, (next, replace = false) => setAddress({ part: next }, { replace })];
}

function useAudit(match: string) {
  return useQuery({
    queryKey: ["audit", match],
    queryFn: () => ok(api.GET("/api/matches/{match}/audit", { params: { path: { match } } })),
    staleTime: 0,
  }).data;
}

/** The report, made again with every clip that is cut. */
function useReport(match: string, cuts: Cut[], enabled: boolean) {
  return useQuery({
    queryKey: ["report", match, cuts.filter((cut) => cut.job?.state === "done").length],
    queryFn: () => ok(api.GET("/api/matches/{match}/report", { params: { path: { match } } })),
    enabled,
    staleTime: 0,
  }).data;
}

function Reviewed({ review }: { review: Review }) {
  const { match, verdict } = review;
  const parts = review.parts.filter((part) => part.clip.state === "ready");
  const [part, setPart] = usePart();
  const [t, setT] = useState(verdict.clock[0]?.t ?? 0);
  const [chosen, setChosen] = useState<string | null>(null);
  const [tool, setTool] = useState<Tool | null>(null);
  const [marks, setMarks] = useState<PictureMark[]>([]);
  const player = useRef<Shown>(null);
  const show = useCallback((start: number, end?: number) => {
    if (player.current) player.current.show(Math.max(0, start), end);
    else setT(Math.max(0, start));
  }, []);
  const playAll = useCallback((stretches: Stretch[]) => player.current?.playAll(stretches), []);
  const prospects = useProspects(match.id);
  const spread = useSpread(match.id, prospects.isSuccess && !prospects.isPlaceholderData).data;
  const notes = useNotes(match.id).data ?? [];
  const cuts = useCuts(match.id).data ?? [];
  const audit = useAudit(match.id);
  const report = useReport(match.id, cuts, part === "send");
  const choose = (key: string | null) => {
    setChosen(key);
    if (key && part !== "errors") setPart("errors");
    if (key) requestAnimationFrame(() => document.getElementById(`error-${key}`)?.scrollIntoView({ block: "nearest" }));
  };
  const draw = (mark: PictureMark) => {
    setMarks([...marks, mark]);
    if (mark.kind === "text") setTool(null);
  };
  const takeUp = (one: Tool | null) => {
    if (one) player.current?.pause();
    setTool(one);
  };
  const calls = (audit?.lines ?? []).flatMap((line) => (line.call ? [asCall(line.call)] : []));
  const bodies: Record<PartName, () => ReactNode> = {
    errors: () => <Mattered {...{ review, spread, t, show, chosen, choose, playAll }} clip={parts.length > 0} />,
    match: () => <MatchLine {...{ review, calls, t, show, choose }} prospects={prospects.data} audit={audit?.lines ?? []} />,
    officials: () => <Officials review={review} comparison={audit} show={show} />,
    rules: () => <OtherRules review={review} show={show} />,
    notes: () => <Notes {...{ review, notes, t, show, tool, marks, setMarks }} setTool={takeUp} />,
    send: () => <Send {...{ review, report, cuts }} />,
  };
  return (
    <Page match={match} part={part} open={(next) => (setTool(null), setPart(next, true))} body={bodies[part]()}>
      {parts.length > 0 && <Player ref={player} {...{ parts, notes, t, setT, tool, draw }} drawn={marks} />}
      <p className="-mb-2 text-center text-[14px] text-slate">Final score</p>
      <ScoreHead score={verdict.score} athlete={match.athlete_name} opponent={match.opponent} tone="paper" />
      <Standing {...{ review, prospects, spread, t, show, choose }} />
    </Page>
  );
}

/** The review itself: the result, what was done well, what mattered, and the coach's marks. */
function Mattered({ playAll, t, ...showing }: Showing & { t: number; playAll: (stretches: Stretch[]) => void }) {
  const { review, show, clip } = showing;
  const { match, verdict } = review;
  return (
    <>
      <p className="mb-3 max-w-[34ch] font-serif text-[26px] leading-snug">{named(verdict.because, match)}</p>
      <Deciding match={match} />
      {match.plan && (
        <div className="mb-4">
          <p>
            <b>The plan:</b> {match.plan}
          </p>
          <PlannedTries planned={review.planned} show={clip ? show : null} />
        </div>
      )}
      <Well well={review.well} show={clip ? show : null} />
      <Stopped stopped={review.stopped} show={clip ? show : null} />
      <ErrorList {...showing} t={t} />
      <Weighed review={review} />
      <Marked marks={review.marks} playAll={clip ? playAll : null} />
      <p className="border-t-2 border-rule pt-3 text-slate">
        This is scored from footage. The event&rsquo;s own rulebook and its referees decide. Leave techniques marked illegal out of training
        for this division too, and have any injury seen by licensed medical staff.
      </p>
    </>
  );
}

/** The page of a review: its parts on the left, what belongs to all of them on the right. */
function Page({
  match,
  part,
  open,
  body,
  children,
}: {
  match: Review["match"];
  part: PartName;
  open: (part: PartName) => void;
  body: ReactNode;
  children: ReactNode;
}) {
  return (
    <PaperPage
      title={`${match.athlete_name} against ${match.opponent}`}
      aside={
        <Link className="quiet" to={`/matches/${match.id}`}>
          Open the desk
        </Link>
      }
    >
      <p className="-mt-4 mb-4 text-slate">
        {[match.event, dayOf(match.date), match.ruleset_title, `${match.belt} belt, age ${match.age}`].filter(Boolean).join(" · ")}
      </p>
      <Tabs.Root value={part} onValueChange={(value) => open(value as PartName)}>
        <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_430px]">
          <div className="min-w-0">
            <Tabs.List aria-label="Parts of the review" className="mb-4 flex flex-wrap gap-x-6 gap-y-1 border-b-2 border-rule">
              {(Object.keys(PARTS) as PartName[]).map((name) => (
                <Tabs.Trigger
                  key={name}
                  value={name}
                  className="-mb-0.5 border-b-[3px] border-transparent pb-1 data-[state=active]:border-amber-deep data-[state=active]:font-semibold"
                >
                  {PARTS[name]}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            <Tabs.Content value={part} tabIndex={-1}>
              {body}
            </Tabs.Content>
          </div>
          <div className="order-first flex flex-col gap-3 lg:sticky lg:top-2 lg:order-none lg:self-start lg:bg-paper">{children}</div>
        </div>
      </Tabs.Root>
    </PaperPage>
  );
}

/** How the match stood: the chance of winning, what was still winnable, and what was better let go. */
function Standing({
  review,
  prospects,
  spread,
  t,
  show,
  choose,
}: {
  review: Review;
  prospects: ReturnType<typeof useProspects>;
  spread: Spread | undefined;
  t: number;
  show: (t: number) => void;
  choose: (key: string) => void;
}) {
  const { match, verdict, found, chains, danger } = review;
  const now = clockAt(verdict, t)?.clock ?? 0;
  const { data } = prospects;
  if (!data || data.moments.length === 0) return <Problem error={prospects.error} />;
  const errors = found.filter((error) => error.standing !== "dismissed");
  const roots = new Set(chains.map((chain) => chain.first));
  return (
    <>
      <ChanceChart prospects={data} {...{ spread, errors, roots, danger, now, choose }} seek={show} />
      <Now prospects={data} {...{ spread, danger, now }} names={match} score={pointsAt(verdict, t)} />
      {data.lets.map((one) => (
        <p key={one.t} className="text-[15px]">
          <button type="button" className="quiet" onClick={() => show(one.t - 3)}>
            Play clip
          </button>{" "}
          {one.because}
        </p>
      ))}
      <Problem error={prospects.error} />
    </>
  );
}

/** A call of the officials as the spine draws it. */
function asCall(entry: { t: number; to: "a" | "b"; kind: string; n: number; observations: (string | number)[] }): Keyed {
  return {
    id: String(entry.observations[0] ?? entry.t),
    t: entry.t,
    kind: "call",
    to: entry.to,
    [entry.kind]: entry.n,
  };
}
