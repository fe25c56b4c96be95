import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Cut, type Job, ok, type Report, type Review, type ReviewError, type ShareLink } from "../api/client";
import { JobWork, underWay } from "../components/JobWork";
import { Problem } from "../components/Problem";
import { clock } from "../components/words";

const STYLES: Record<NonNullable<Cut["style"]>, string> = {
  plain: "as it is",
  captions: "with captions",
  burnt: "score and sentence in the picture",
};
const ADULT = 18;
const FILES = [
  { form: "log", name: "Log (JSON)", href: "log" },
  { form: "csv", name: "Score (CSV)", href: "file/csv" },
  { form: "vtt", name: "Captions (WebVTT)", href: "file/vtt" },
  { form: "txt", name: "Score sheet (text)", href: "file/txt" },
];

/** The report for the athlete: its words, its clips, the link it is sent by; and the match as files. */
export function Send({ review, report, cuts }: { review: Review; report: Report | undefined; cuts: Cut[] }) {
  const id = review.match.id;
  return (
    <div className="grid gap-8">
      <Letter review={review} id={id} />
      <Clips review={review} report={report} cuts={cuts} />
      {review.match.second_of === null && <Links id={id} minor={review.match.age < ADULT} />}
      {report && report.answers.length > 0 && (
        <section>
          <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">What {review.match.athlete_name} wrote back</h2>
          <ul>
            {report.answers.map((answer) => {
              const about = review.found.find((error) => error.key === answer.key);
              return (
                <li key={answer.at} className="border-b border-rule py-2">
                  {about && <span className="block text-[15px] text-slate">on {about.title}</span>}
                  {answer.text}
                </li>
              );
            })}
          </ul>
        </section>
      )}
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
          {FILES.map((file) => (
            <a key={file.form} className="quiet" href={`/api/matches/${id}/${file.href}`} download>
              {file.name}
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

function Letter({ review, id }: { review: Review; id: string }) {
  const letter = useQuery({
    queryKey: ["letter", id],
    queryFn: () => ok(api.GET("/api/matches/{match}/letter", { params: { path: { match: id } } })),
  });
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
      <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">What you say above it</h2>
      <label>
        <span className="mb-1 block font-semibold">To {review.match.athlete_name}</span>
        <textarea
          className="field"
          rows={2}
          maxLength={600}
          value={greeting}
          onChange={(event) => setGreeting(event.target.value)}
          placeholder="A line or two, or nothing"
        />
      </label>
      <label>
        <span className="mb-1 block font-semibold">One thing done well</span>
        <input
          className="field"
          maxLength={300}
          value={well}
          onChange={(event) => setWell(event.target.value)}
          placeholder={review.well[0] ?? "Something the log does not show"}
        />
      </label>
      <span className="flex items-baseline gap-5">
        <button type="submit" className="act py-1!" disabled={save.isPending || saved}>
          {saved ? "Kept" : "Keep it"}
        </button>
        <a className="quiet" href={`/matches/${id}/report`} target="_blank" rel="noreferrer">
          See it as the athlete will
        </a>
      </span>
      <Problem error={save.error} />
    </form>
  );
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
  const mattered = new Set(report?.mattered.map((thing) => thing.key));
  const shown = review.found.filter(
    (error) => mattered.has(error.key) || error.standing === "accepted" || cuts.some((one) => one.key === error.key),
  );
  const missing = shown.filter((error) => !cuts.some((one) => one.key === error.key)).map((error) => error.key);
  return (
    <section>
      <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">Clips of what mattered</h2>
      <p className="flex flex-wrap items-baseline gap-4 py-3">
        <label className="flex items-baseline gap-2">
          Cut them
          <select className="field w-auto! py-0.5!" value={style} onChange={(event) => setStyle(event.target.value as typeof style)}>
            {Object.entries(STYLES).map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <button
          type="button"
          className="act py-1!"
          disabled={!report || missing.length === 0 || cut.isPending}
          onClick={() => cut.mutate(missing)}
        >
          {missing.length === 0
            ? "All are cut"
            : `Cut ${missing.length === 1 ? "the one" : `the ${missing.length}`} that ${missing.length === 1 ? "is" : "are"} missing`}
        </button>
      </p>
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
          {cut ? "Cut anew" : "Cut it"}
        </button>
      )}
    </li>
  );
}

function cutting(job: Job) {
  if (job.state === "failed") return <span className="text-alarm">not cut: {job.trouble}</span>;
  return job.state === "cancelled" ? <span className="text-alarm">cancelled</span> : null;
}

function Links({ id, minor }: { id: string; minor: boolean }) {
  const queries = useQueryClient();
  const [days, setDays] = useState(14);
  const links = useQuery({
    queryKey: ["links", id],
    queryFn: () => ok(api.GET("/api/matches/{match}/links", { params: { path: { match: id } } })),
  });
  const again = () => queries.invalidateQueries({ queryKey: ["links", id] });
  const make = useMutation({
    mutationFn: () => ok(api.POST("/api/matches/{match}/links", { params: { path: { match: id } }, body: { days } })),
    onSuccess: again,
  });
  const revoke = useMutation({
    mutationFn: (link: string) => ok(api.DELETE("/api/matches/{match}/links/{link}", { params: { path: { match: id, link } } })),
    onSuccess: again,
  });
  const address = make.data ? `${window.location.origin}/r/${make.data.token}` : "";
  return (
    <section>
      <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">Send it</h2>
      <p className="flex flex-wrap items-baseline gap-3 py-3">
        <label className="flex items-baseline gap-2">
          A link that ends after
          <select className="field w-auto! py-0.5!" value={days} onChange={(event) => setDays(Number(event.target.value))}>
            {[3, 14, 60].map((one) => (
              <option key={one} value={one}>
                {one} days
              </option>
            ))}
          </select>
        </label>
        <button type="button" className="act py-1!" disabled={make.isPending} onClick={() => make.mutate()}>
          Make a link
        </button>
        <span className="text-slate">Whoever has it sees this report and nothing else.</span>
      </p>
      {minor && (
        <p className="mb-3 border-l-4 border-alarm pl-3">
          This is footage of a minor. Send it to the athlete&rsquo;s family, and to nobody else without their leave.
        </p>
      )}
      {address && <NewLink key={address} address={address} />}
      <ul>
        {links.data?.map((link) => (
          <OneLink key={link.id} link={link} revoke={() => revoke.mutate(link.id)} />
        ))}
      </ul>
      <Problem error={links.error ?? make.error ?? revoke.error} />
    </section>
  );
}

/** A link that was just made: its address is shown this once. */
function NewLink({ address }: { address: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <p className="flex flex-wrap items-baseline gap-4 border-l-4 border-amber bg-sheet px-3 py-2">
      <label className="min-w-0 flex-1">
        <span className="block text-[15px] text-slate">Told this once; copy it now</span>
        <input
          className="field font-mono text-[14px]!"
          readOnly
          value={address}
          aria-label="The link"
          onFocus={(event) => event.target.select()}
        />
      </label>
      <button type="button" className="act py-1!" onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(true))}>
        {copied ? "Copied" : "Copy"}
      </button>
    </p>
  );
}

function OneLink({ link, revoke }: { link: ShareLink; revoke: () => void }) {
  const ended = new Date(link.ends) < new Date();
  const day = (text: string) => new Date(text).toLocaleDateString("en", { day: "numeric", month: "long" });
  return (
    <li className="flex flex-wrap gap-x-4 border-t border-rule py-1.5">
      <span className="flex-1">
        Link of {day(link.created)}, {link.revoked ? "revoked" : ended ? "ended" : `ends ${day(link.ends)}`};{" "}
        {link.opened ? `last opened ${day(link.opened)}` : "not opened yet"}
      </span>
      {!link.revoked && !ended && (
        <button type="button" className="quiet" onClick={revoke}>
          Revoke
        </button>
      )}
    </li>
  );
}
