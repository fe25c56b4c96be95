import { Figures } from "../components/Figures";
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, type AuditLine, ok, type Verdict } from "../api/client";
import { Mark } from "../components/Mark";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { clockAt } from "../components/timeline";
import { clock, footage, named, firstOf, type Named } from "../components/words";

type Entry = NonNullable<AuditLine["award"]>;

const STANDING: Record<AuditLine["standing"], string> = {
  agreed: "both",
  differently: "scored differently",
  not_called: "first scorer only",
  not_awarded: "second scorer only",
};

/** Two scores of one match on one line of time, with how far they agree. */
export function SideBySide() {
  const { id = "", second = "" } = useParams();
  const both = useQuery({
    queryKey: ["side-by-side", id, second],
    queryFn: () => ok(api.GET("/api/matches/{match}/seconds/{second}", { params: { path: { match: id, second } } })),
    retry: false,
  });
  if (!both.data) {
    return (
      <PaperPage title="Two scores side by side">
        {both.isPending && <p className="text-slate">Comparing the two scores…</p>}
        <Problem error={both.error} />
      </PaperPage>
    );
  }
  const { match, verdicts, scorers, comparison } = both.data;
  const said = (text: string) =>
    named(text, match)
      .replaceAll(/the first scorer/gi, () => scorers[0] ?? "")
      .replaceAll(/the second scorer/gi, () => scorers[1] ?? "");
  return (
    <PaperPage title={`${match.athlete_name} against ${match.opponent}`}>
      <p className="-mt-4 mb-6 text-slate">Two scores of one match, side by side</p>
      <div className="grid gap-x-12 gap-y-8 lg:grid-cols-[minmax(0,1fr)_330px]">
        <div className="relative min-w-0">
          <div className="grid grid-cols-[1fr_120px_1fr] items-end pb-2">
            {verdicts.map((verdict, index) => (
              <p key={scorers[index]} className={index === 0 ? "pr-3 text-right" : "order-3 pl-3"}>
                <b className="block text-lg">{scorers[index]}</b>
                {verdict.score.a.points}–{verdict.score.b.points}, advantages {verdict.score.a.advantages}–{verdict.score.b.advantages}
              </p>
            ))}
            <span className="order-2" />
          </div>
          <ol className="relative">
            <span aria-hidden className="absolute top-0 bottom-0 left-1/2 w-[3px] -translate-x-1/2 bg-rule" />
            {comparison.lines.map((line, index) => (
              <LineRow key={index} line={line} first={verdicts[0]} said={said} match={match} />
            ))}
          </ol>
          {comparison.lines.length === 0 && <p className="py-4 text-slate">Neither has awarded anything yet.</p>}
        </div>
        <Figures comparison={comparison} />
      </div>
    </PaperPage>
  );
}

/** What the two gave at one moment, and where they differ, why. */
function LineRow({
  line,
  first,
  said,
  match,
}: {
  line: AuditLine;
  first: Verdict | undefined;
  said: (text: string) => string;
  match: Named;
}) {
  const at = Math.min(...[line.award, line.call].flatMap((entry) => (entry ? [entry.t] : [])));
  const now = first ? clockAt(first, at) : null;
  return (
    <li
      className={`relative grid grid-cols-[1fr_120px_1fr] items-start border-b border-rule py-2 ${line.standing === "agreed" ? "bg-transparent" : "bg-sheet"}`}
      data-testid="line"
    >
      <Given entry={line.award} match={match} left />
      <span className={`z-10 justify-self-center px-1 text-center leading-tight ${line.standing === "agreed" ? "bg-paper" : "bg-sheet"}`}>
        <b className="block" title={footage(at)}>
          {now ? clock(now.clock) : footage(at)}
        </b>
        <span className={line.standing === "agreed" ? "text-slate" : "font-semibold text-alarm"}>{STANDING[line.standing]}</span>
      </span>
      <Given entry={line.call} match={match} />
      {line.standing !== "agreed" && <p className="col-span-3 px-6 pt-1 text-center text-[15px] text-slate">{said(line.because)}</p>}
    </li>
  );
}

function Given({ entry, match, left = false }: { entry: Entry | null; match: Named; left?: boolean }) {
  if (!entry) return <span className={`px-3 text-slate ${left ? "text-right" : ""}`}>nothing</span>;
  const side = entry.to;
  return (
    <span className={`flex items-center gap-2 px-3 ${left ? "flex-row-reverse text-right" : ""}`}>
      <Mark kind={entry.kind as "points"} n={entry.n} side={side} on="paper" />
      <span className="text-[15px]">{firstOf(side === "a" ? match.athlete_name : match.opponent)}</span>
    </span>
  );
}
