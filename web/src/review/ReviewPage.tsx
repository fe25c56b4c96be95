import { useQuery } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useCallback, useRef, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { api, ok, type PictureMark, type Review } from "../api/client";
import { clockAt } from "../components/timeline";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { ScoreHead } from "../components/ScoreHead";
import { named } from "../components/words";
import type { Keyed } from "../api/client";
import { ChanceChart } from "./ChanceChart";
import { ErrorList } from "./ErrorList";
import { MatchLine } from "./MatchLine";
import { Notes } from "./Notes";
import { Now } from "./Now";
import { Officials } from "./Officials";
import { OtherRules } from "./OtherRules";
import { Player, type Shown, type Tool } from "./Player";
import { Send } from "./Send";
import { useCuts, useNotes, useProspects, useReview, useSpread } from "./useReview";

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
  errors: "What cost it",
  match: "The match",
  officials: "Officials",
  rules: "Under other rules",
  notes: "Notes",
  send: "Report",
} as const;
type PartName = keyof typeof PARTS;

function Reviewed({ review }: { review: Review }) {
  const { match, verdict } = review;
  const parts = review.parts.filter((part) => part.clip.state === "ready");
  const [address, setAddress] = useSearchParams();
  const asked = address.get("part");
  const part: PartName = asked !== null && asked in PARTS ? (asked as PartName) : "errors";
  const [t, setT] = useState(verdict.clock[0]?.t ?? 0);
  const [chosen, setChosen] = useState<string | null>(null);
  const [tool, setTool] = useState<Tool | null>(null);
  const [marks, setMarks] = useState<PictureMark[]>([]);
  const player = useRef<Shown>(null);
  const show = useCallback((start: number, end?: number) => {
    if (player.current) player.current.show(Math.max(0, start), end);
    else setT(Math.max(0, start));
  }, []);
  const prospects = useProspects(match.id);
  const spread = useSpread(match.id, prospects.isSuccess && !prospects.isPlaceholderData);
  const notes = useNotes(match.id).data ?? [];
  const cuts = useCuts(match.id).data ?? [];
  const audit = useQuery({
    queryKey: ["audit", match.id],
    queryFn: () => ok(api.GET("/api/matches/{match}/audit", { params: { path: { match: match.id } } })),
    staleTime: 0,
  });
  const report = useQuery({
    queryKey: ["report", match.id, cuts.filter((cut) => cut.job?.state === "done").length],
    queryFn: () => ok(api.GET("/api/matches/{match}/report", { params: { path: { match: match.id } } })),
    enabled: part === "send",
    staleTime: 0,
  });
  const pick = (key: string | null) => {
    setChosen(key);
    if (key && part !== "errors") setAddress({ part: "errors" });
    if (key) requestAnimationFrame(() => document.getElementById(`error-${key}`)?.scrollIntoView({ block: "nearest" }));
  };
  const errors = review.found.filter((error) => error.standing !== "dismissed");
  const roots = new Set(review.chains.map((chain) => chain.first));
  const now = clockAt(verdict, t)?.clock ?? 0;
  const calls = (audit.data?.lines ?? []).flatMap((line) => (line.call ? [asCall(line.call)] : []));
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
        {[match.event, match.date, match.ruleset_title, `${match.belt} belt, ${match.age} years`].filter(Boolean).join(" · ")}
      </p>
      <Tabs.Root
        value={part}
        onValueChange={(value) => {
          setTool(null);
          setAddress({ part: value }, { replace: true });
        }}
      >
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
            <Tabs.Content value="errors" tabIndex={-1}>
              <p className="mb-3 max-w-[34ch] font-serif text-[26px] leading-snug">{named(verdict.because, match)}</p>
              <ErrorList
                review={review}
                prospects={prospects.data}
                t={t}
                show={show}
                chosen={chosen}
                choose={pick}
                clip={parts.length > 0}
              />
            </Tabs.Content>
            <Tabs.Content value="match" tabIndex={-1}>
              <MatchLine
                review={review}
                prospects={prospects.data}
                audit={audit.data?.lines ?? []}
                calls={calls}
                t={t}
                show={show}
                choose={pick}
              />
            </Tabs.Content>
            <Tabs.Content value="officials" tabIndex={-1}>
              <Officials review={review} comparison={audit.data} show={show} />
            </Tabs.Content>
            <Tabs.Content value="rules" tabIndex={-1}>
              <OtherRules review={review} show={show} />
            </Tabs.Content>
            <Tabs.Content value="notes" tabIndex={-1}>
              <Notes
                review={review}
                notes={notes}
                t={t}
                show={show}
                tool={tool}
                setTool={(one) => {
                  if (one) player.current?.pause();
                  setTool(one);
                }}
                marks={marks}
                setMarks={setMarks}
              />
            </Tabs.Content>
            <Tabs.Content value="send" tabIndex={-1}>
              <Send review={review} report={report.data} cuts={cuts} />
            </Tabs.Content>
          </div>
          <div className="order-first flex flex-col gap-3 lg:sticky lg:top-2 lg:order-none lg:self-start lg:bg-paper">
            {parts.length > 0 && (
              <Player
                ref={player}
                parts={parts}
                notes={notes}
                t={t}
                setT={setT}
                tool={tool}
                draw={(mark) => {
                  setMarks([...marks, mark]);
                  if (mark.kind === "text") setTool(null);
                }}
                drawn={marks}
              />
            )}
            <ScoreHead score={verdict.score} athlete={match.athlete_name} opponent={match.opponent} tone="paper" />
            {prospects.data && prospects.data.moments.length > 0 && (
              <>
                <ChanceChart
                  prospects={prospects.data}
                  spread={spread.data}
                  errors={errors}
                  roots={roots}
                  now={now}
                  seek={show}
                  choose={pick}
                />
                <Now prospects={prospects.data} spread={spread.data} now={now} names={match} />
                {prospects.data.lets.map((one) => (
                  <p key={one.t} className="text-[15px]">
                    <button type="button" className="quiet" onClick={() => show(one.t - 3)}>
                      Show it
                    </button>{" "}
                    {one.because}
                  </p>
                ))}
              </>
            )}
            <Problem error={prospects.error} />
          </div>
        </div>
      </Tabs.Root>
    </PaperPage>
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
