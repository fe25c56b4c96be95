import { useQuery } from "@tanstack/react-query";
import { api, type Checked, ok } from "../api/client";
import { JobWork, underWay } from "../components/JobWork";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";
import { dayOf, percent, matchesWords } from "../components/words";
import { Numbers, NumbersRow, ShareBar, Title } from "./parts";

const KEY = ["calibration"];
const LOOK_EVERY_MS = 1000;

/** Whether the chances of winning come true: predicted against happened in the club's own matches. */
export function Calibration() {
  const found = useQuery({
    queryKey: KEY,
    queryFn: () => ok(api.GET("/api/club/calibration")),
    refetchInterval: (query) => (underWay(query.state.data?.job) ? LOOK_EVERY_MS : false),
  });
  const ask = useDoing<undefined>(KEY, () => ok(api.POST("/api/club/calibration")));
  const checked = found.data;
  return (
    <section>
      <Title>Do the chances come true?</Title>
      <p className="pb-3 text-slate">
        The chance of winning is an estimate. Here it is held against your own matches: each is predicted at one moment, by what the others
        teach.
      </p>
      <Problem error={found.error ?? ask.error} />
      {checked?.found && <Found found={checked.found} />}
      {checked?.at && !checked.found && <p>Too few matches are over to say. Ten are needed.</p>}
      <p className="flex flex-wrap items-center gap-4 pt-3">
        {checked?.job && underWay(checked.job) ? (
          <JobWork job={checked.job} doing="Holding chances against results" said="being worked out" shown={[KEY]} />
        ) : (
          <button type="button" className="act" disabled={ask.isPending} onClick={() => ask.mutate(undefined)}>
            {checked?.at ? "Work it out again" : "Work it out"}
          </button>
        )}
        {checked?.at && <span className="text-slate">last on {dayOf(checked.at)}</span>}
      </p>
    </section>
  );
}

function Found({ found }: { found: NonNullable<Checked["found"]> }) {
  const better = found.score < found.usual;
  return (
    <>
      <p className="pb-2">
        In {matchesWords(found.matches)} the estimate was off by {found.score.toFixed(3)} (Brier&rsquo;s score: 0 is perfect, 0.25 is a
        coin); who always says the same number is off by {found.usual.toFixed(3)}.{" "}
        {better ? "It knows something." : "It knows no more than that."}
      </p>
      <Numbers head={["Predicted", "Matches", "On average", "Won", "Where the true share lies"]}>
        {found.bins.map((one) => (
          <NumbersRow
            key={one.low}
            cells={[
              `${percent(one.low)} to ${percent(one.high)}`,
              one.won.of,
              percent(one.predicted),
              `${one.won.done} of ${one.won.of}`,
              <ShareBar key="bar" share={one.won} said={`between ${percent(one.won.low)} and ${percent(one.won.high)}`} />,
            ]}
          />
        ))}
      </Numbers>
    </>
  );
}
