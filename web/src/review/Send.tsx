import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Fragment, useState } from "react";
import { api, type Cut, type Job, ok, type Report, type Review, type ReviewError } from "../api/client";
import { Links } from "./Links";
import { JobWork, underWay } from "../components/JobWork";
import { Problem } from "../components/Problem";
import { clock } from "../components/words";
import { Replies } from "./Replies";
import { chainsOf, useLetter } from "./useReview";

const STYLES: Record<NonNullable<Cut["style"]>, string> = {
  plain: "plain",
  captions: "with captions",
  burnt: "score and explanation burned in",
};

/** The report for the athlete: its words, its clips, the link it is sent by; and the match as files. */
export function Send({ review, report, cuts }: { review: Review; report: Report | undefined; cuts: Cut[] }) {
  const id = review.match.id;
  return (
    <div className="grid gap-8">
      <InReport review={review} report={report} />
      <Letter review={review} id={id} />
      <Clips review={review} report={report} cuts={cuts} />
      {review.match.second_of === null && <Links id={id} missing={clipsMissing(review, cuts)} />}
      {report && report.answers.length > 0 && <Replies review={review} report={report} />}
      {report && report.drills.length > 0 && (
        <section>
          <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">Drills</h2>
          <ul>
            {report.drills.map((drill) => (
              <li key={drill.key} className="flex gap-3 border-b border-rule py-1.5">
                <b className="w-12 shrink-0">{drill.done ? "done" : "open"}</b>
                {drill.text}
              </li>
            ))}
          </ul>
        </section>
      )}
      <section>
        <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">The match as files</h2>
        <p className="flex flex-wrap gap-6 pt-2">
          <a className="quiet" href={`/api/matches/${id}/log`} download>
            Log (JSON)
          </a>
          {review.files.map((file) => (
            <a key={file.name} className="quiet" href={`/api/matches/${id}/file/${file.name}`} download>
              {file.title}
            </a>
          ))}
          <a className="quiet" href={`/api/matches/${id}/report.pdf`} target="_blank" rel="noreferrer">
            Report (PDF)
          </a>
        </p>
      </section>
    </div>
  );
}

/** What the athlete will read, in a few words, before it is sent. */
function InReport({ review, report }: { review: Review; report: Report | undefined }) {
  if (!report) return null;
  const shown = chainsOf(review).filter((chain) => chain.inReport.length > 0);
  const inReport = shown.reduce((sum, chain) => sum + chain.inReport.length, 0);
  const leftOut = review.found.filter((error) => error.standing === "accepted" || error.own).length - inReport;
  const inPart = shown.some((chain) => chain.inReport.length <= chain.later.length);
  const rows = [
    ["Done well", report.well.join(" ") || "nothing"],
    ["Drills", report.drills.length > 0 ? String(report.drills.length) : "none"],
    ["Notes", report.notes.length > 0 ? report.notes.map((note) => note.text).join("; ") : "none"],
  ];
  return (
    <section data-testid="in-report">
      <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">What {review.match.athlete_name} will read</h2>
      <dl className="grid grid-cols-[7rem_1fr] gap-x-4 gap-y-1 pt-2">
        <dt className="font-semibold">Errors</dt>
        <dd>
          {report.mattered.map((thing) => (
            <p key={thing.key}>
              {[thing.title, ...thing.led_to.map((later) => later.title)].join(" → ")}
              {thing.cost && <span className="text-amber-deep"> {thing.cost}</span>}
            </p>
          ))}
          {report.mattered.length === 0 && "none: accept errors to put them there"}
        </dd>
        {rows.map(([name, said]) => (
          <Fragment key={name}>
            <dt className="font-semibold">{name}</dt>
            <dd>{said}</dd>
          </Fragment>
        ))}
      </dl>
      {inPart && (
        <p className="pt-1 text-slate">
          Part of a chain is not accepted. The report has the accepted errors alone, and their cost; the review counts the whole chain.
        </p>
      )}
      {leftOut > 0 && (
        <p className="pt-1 text-slate">
          {leftOut} more accepted {leftOut === 1 ? "error is" : "errors are"} left out: a report tells of the{" "}
          {report.young ? "two" : "three"} things that mattered most, and has the drills of all.
        </p>
      )}
    </section>
  );
}

function Letter({ review, id }: { review: Review; id: string }) {
  const letter = useLetter(id);
  if (!letter.data) return <Problem error={letter.error} />;
  return <LetterForm review={review} id={id} kept={letter.data} />;
}

function LetterForm({ review, id, kept }: { review: Review; id: string; kept: { greeting: string; well: string } }) {
  const queries = useQueryClient();
  const [greeting, setGreeting] = useState(kept.greeting);
  const [well, setWell] = useState(kept.well);
  const save = useMutation({
    mutationFn: () => ok(api.PUT("/api/matches/{match}/letter", { params: { path: { match: id } }, body: { greeting, well } })),
    onSuccess: (now) => {
      queries.setQueryData(["letter", id], now);
      return queries.invalidateQueries({ queryKey: ["report", id] });
    },
  });
  const saved = kept.greeting === greeting && kept.well === well;
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">Your message</h2>
      <label>
        <span className="mb-1 block font-semibold">To {review.match.athlete_name}</span>
        <textarea
          className="field"
          rows={2}
          maxLength={600}
          value={greeting}
          onChange={(event) => setGreeting(event.target.value)}
          placeholder="Optional: a line or two"
        />
      </label>
      <label>
        <span className="mb-1 block font-semibold">One thing done well</span>
        <input
          className="field"
          maxLength={300}
          value={well}
          onChange={(event) => setWell(event.target.value)}
          placeholder={review.well[0]?.because ?? "Something the log does not show"}
        />
      </label>
      <span className="flex items-baseline gap-5">
        <button type="submit" className="act py-1!" disabled={save.isPending || saved}>
          {saved ? "Saved" : "Save"}
        </button>
        <a className="quiet" href={`/matches/${id}/report`} target="_blank" rel="noreferrer">
          See it as the athlete will
        </a>
      </span>
      <Problem error={save.error} />
    </form>
  );
}

/** The errors that have a clip, or should have one. */
function withClips(review: Review, cuts: Cut[]): ReviewError[] {
  return review.found.filter((error) => error.standing === "accepted" || error.own || cuts.some((one) => one.key === error.key));
}

/** How many clips the report is still without. */
function clipsMissing(review: Review, cuts: Cut[]): number {
  return withClips(review, cuts).filter((error) => !cuts.some((one) => one.key === error.key && one.job?.state === "done")).length;
}

function Clips({ review, report, cuts }: { review: Review; report: Report | undefined; cuts: Cut[] }) {
  const queries = useQueryClient();
  const { match } = review;
  const [style, setStyle] = useState<NonNullable<Cut["style"]>>("captions");
  const shownBy = [
    ["cuts", match.id],
    ["report", match.id],
  ];
  const again = () => Promise.all(shownBy.map((queryKey) => queries.invalidateQueries({ queryKey })));
  const cut = useMutation({
    mutationFn: (keys: string[]) =>
      Promise.all(
        keys.map((key) => ok(api.POST("/api/matches/{match}/cuts", { params: { path: { match: match.id } }, body: { key, style } }))),
      ),
    onSettled: again,
  });
  const shown = withClips(review, cuts);
  const missing = shown.filter((error) => !cuts.some((one) => one.key === error.key)).map((error) => error.key);
  return (
    <section>
      <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">Clips for the report</h2>
      <CutMissing
        style={style}
        setStyle={setStyle}
        missing={missing.length}
        making={cuts.filter((one) => underWay(one.job)).length}
        busy={!report || cut.isPending}
        cut={() => cut.mutate(missing)}
      />
      <ul>
        {shown.map((error) => (
          <ClipRow
            key={error.key}
            match={match.id}
            error={error}
            cut={cuts.find((one) => one.key === error.key)}
            shown={shownBy}
            again={() => cut.mutate([error.key])}
          />
        ))}
      </ul>
      {shown.length === 0 && <p className="text-slate">Nothing is in the report yet. Accept errors to put them there.</p>}
      <Problem error={cut.error} />
    </section>
  );
}

/** Cuts every clip that is missing, in the way that is chosen. */
function CutMissing({
  style,
  setStyle,
  missing,
  making,
  busy,
  cut,
}: {
  style: NonNullable<Cut["style"]>;
  setStyle: (style: NonNullable<Cut["style"]>) => void;
  missing: number;
  /** How many are being made. */
  making: number;
  busy: boolean;
  cut: () => void;
}) {
  return (
    <p className="flex flex-wrap items-baseline gap-4 py-3">
      <label className="flex items-baseline gap-2">
        Clip style
        <select className="field w-auto! py-0.5!" value={style} onChange={(event) => setStyle(event.target.value as typeof style)}>
          {Object.entries(STYLES).map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <button type="button" className="act py-1!" disabled={missing === 0 || busy} onClick={cut}>
        {missing === 0 && making > 0
          ? `${making} being made`
          : missing === 0
            ? "All clips made"
            : missing === 1
              ? "Make the missing clip"
              : `Make the ${missing} missing clips`}
      </button>
    </p>
  );
}

/** One error with its clip: being cut, there to be saved, or to be asked for. */
function ClipRow({
  match,
  error,
  cut,
  shown,
  again,
}: {
  match: string;
  error: ReviewError;
  cut: Cut | undefined;
  shown: string[][];
  again: () => void;
}) {
  const busy = underWay(cut?.job);
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 border-t border-rule py-2">
      <span>{clock(error.since_clock)}</span>
      <span className="min-w-0 flex-1">{error.title}</span>
      {cut?.job && cut.job.state !== "done" && (
        <JobWork job={cut.job} doing={`Cutting: ${error.title}`} said={cutting(cut.job)} shown={shown} again={null} />
      )}
      {cut?.job?.state === "done" && (
        <a
          className="quiet"
          href={`/api/matches/${match}/cuts/${cut.id}/content`}
          download={`clip-${clock(error.since_clock).replace(":", "-")}.mp4`}
        >
          Save, {STYLES[cut.style ?? "plain"]}
        </a>
      )}
      {!busy && (
        <button type="button" className="quiet" onClick={() => again()}>
          {cut ? "Cut again" : "Cut it"}
        </button>
      )}
    </li>
  );
}

function cutting(job: Job) {
  if (job.state === "failed") return <span className="text-alarm">not cut: {job.trouble}</span>;
  return job.state === "cancelled" ? <span className="text-alarm">cancelled</span> : null;
}
