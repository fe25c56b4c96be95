import { type ReactNode, useState } from "react";
import type { Report } from "../api/client";
import { Mark } from "../components/Mark";
import { ScoreHead } from "../components/ScoreHead";
import { clock, dayOf } from "../components/words";

const INJURY =
  "Only guardians, the athlete’s coaches and the head coach see this. No training with it until licensed medical staff have looked at it.";

/** What a reader can do, and not everyone can. */
interface Doing {
  tick?: (key: string, done: boolean) => void;
  /** The tick that is on its way. */
  ticking?: { key: string; done: boolean } | null;
  answer?: (key: string, text: string) => Promise<unknown>;
}

export function Told({ report, clips, tick, ticking, answer }: { report: Report; clips: Clips } & Doing) {
  return (
    <article>
      <h1 className="pt-5 text-[28px] leading-tight font-semibold">
        {report.athlete} <span className="text-slate">against</span> {report.opponent}
      </h1>
      <p className="text-slate">{[report.event, dayOf(report.date), report.ruleset].filter(Boolean).join(" · ")}</p>
      <p className="py-4 font-serif text-[22px] leading-snug">{report.because}</p>
      <ScoreHead score={report.score} athlete={report.athlete} opponent={report.opponent} tone="paper" />
      {report.greeting && <p className="mt-5 border-l-4 border-amber pl-3 whitespace-pre-line">{report.greeting}</p>}
      {report.well.length > 0 && (
        <Part title={report.young ? "What you did well" : "Done well"}>
          <ul>
            {report.well.map((one) => (
              <li key={one} className="border-b border-rule py-2 last:border-b-0">
                {one}
              </li>
            ))}
          </ul>
        </Part>
      )}
      <Part title={report.young ? "What to work on" : "What mattered"}>
        {report.mattered.length === 0 && <p className="py-2 text-slate">Your coach has chosen nothing for this report.</p>}
        <ol>
          {report.mattered.map((thing, index) => (
            <Thing key={thing.key} thing={thing} number={index + 1} report={report} clips={clips} answer={answer} />
          ))}
        </ol>
      </Part>
      {report.drills.length > 0 && (
        <Part title="To drill">
          <Drills drills={report.drills} tick={tick} ticking={ticking} />
        </Part>
      )}
      {report.notes.length > 0 && (
        <Part title="Notes">
          {report.notes.map((note, index) => (
            <p key={index} className="border-b border-rule py-2">
              <b>{clock(note.clock)}</b> {note.text}
            </p>
          ))}
        </Part>
      )}
      <Part title="The match">
        <TimeLine report={report} />
      </Part>
      {(answer || report.answers.some((one) => one.key === "")) && (
        <Part title="Reply to your coach">
          <Answers about="" report={report} answer={answer} name="the match" />
        </Part>
      )}
      {report.injuries.length > 0 && <Injuries report={report} />}
      <p className="mt-6 border-t-2 border-rule pt-3 text-slate">{report.deference}</p>
    </article>
  );
}

function Injuries({ report }: { report: Report }) {
  return (
    <Part title="Injury">
      <ul>
        {report.injuries.map((one, index) => (
          <li key={index} className="border-b border-rule py-2 last:border-b-0">
            <b>{clock(one.clock)}</b> {one.part}
          </li>
        ))}
      </ul>
      <p className="pt-2 text-slate">{INJURY}</p>
    </Part>
  );
}

export type Clips = (cut: string, part: "content" | "captions") => string;

/** One of the things that mattered. */
function Thing({
  thing,
  number,
  report,
  clips,
  answer,
}: {
  thing: Report["mattered"][number];
  number: number;
  report: Report;
  clips: Clips;
  answer: Doing["answer"];
}) {
  return (
    <li className="border-b border-rule py-4">
      <h3 className="flex items-baseline gap-3 font-serif text-[21px] leading-snug font-semibold">
        <span className="text-amber-deep">{number}</span> {thing.title}
      </h3>
      <p className="pt-1">
        <b>{clock(thing.clock)}</b> {thing.because}
      </p>
      {thing.led_to.map((later) => (
        <p key={`${later.clock} ${later.title}`} className="ml-1 border-l-[3px] border-amber pl-3">
          then <b>{clock(later.clock)}</b> {later.title}
        </p>
      ))}
      {thing.cost && <p className="pt-1 text-amber-deep">{thing.cost}</p>}
      {thing.otherwise && <p className="pt-1">{thing.otherwise}</p>}
      {thing.causes.length > 0 && <p className="pt-1 text-slate">Cause: {thing.causes.join(", ")}</p>}
      {thing.instead && (
        <p className="pt-1">
          <b>Next time:</b> {thing.instead}
        </p>
      )}
      {thing.clips.map((clip) => (
        <figure key={clip.cut} className="pt-3">
          <video
            controls
            muted
            playsInline
            preload="metadata"
            className="aspect-video w-full bg-night"
            aria-label={`Clip: ${clip.title}`}
            src={clips(clip.cut, "content")}
          >
            {clip.captions && <track kind="captions" srcLang="en" label="Score" default src={clips(clip.cut, "captions")} />}
          </video>
          {thing.clips.length > 1 && <figcaption className="text-[15px] text-slate">{clip.title}</figcaption>}
        </figure>
      ))}
      <Answers about={thing.key} report={report} answer={answer} name={thing.title} />
    </li>
  );
}

function Drills({ drills, tick, ticking }: { drills: Report["drills"] } & Doing) {
  return (
    <ul>
      {drills.map((drill) => (
        <li key={drill.key} className="border-b border-rule py-2.5">
          <label className="flex items-start gap-3">
            <input
              type="checkbox"
              className="mt-1 h-5 w-5 shrink-0 accent-amber-deep"
              checked={ticking?.key === drill.key ? ticking.done : drill.done}
              disabled={!tick}
              onChange={(event) => tick?.(drill.key, event.target.checked)}
            />
            <span className={drill.done ? "text-slate line-through" : ""}>{drill.text}</span>
          </label>
        </li>
      ))}
    </ul>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="pt-6">
      <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">{title}</h2>
      {children}
    </section>
  );
}

/** The line of time down the middle: the athlete's gains to the left, the opponent's to the right. */
function TimeLine({ report }: { report: Report }) {
  return (
    <ol className="relative pt-2">
      <span aria-hidden className="absolute top-0 bottom-0 left-1/2 w-[3px] -translate-x-1/2 bg-rule" />
      {report.line.map((row, index) => (
        <li key={index} className="relative py-1">
          <div className="grid grid-cols-[1fr_56px_1fr] items-center">
            {(["a", "b"] as const).map((side) => (
              <span key={side} className={`flex gap-1 ${side === "a" ? "flex-row-reverse" : "order-3"}`}>
                {row.gained
                  .filter((gain) => gain.to === side)
                  .map((gain, at) => (
                    <Mark key={at} kind={gain.kind} n={gain.n} side={side} on="paper" />
                  ))}
              </span>
            ))}
            <span className="order-2 justify-self-center border-2 border-rule bg-paper px-1 text-[15px] font-semibold">
              {clock(row.clock)}
            </span>
          </div>
          {row.began.length > 0 && <p className="relative bg-paper py-0.5 text-center text-[15px] text-slate">{row.began.join("; ")}</p>}
        </li>
      ))}
    </ol>
  );
}

function Answers({ about, report, answer, name }: { about: string; report: Report; answer: Doing["answer"]; name: string }) {
  const [text, setText] = useState("");
  const [open, setOpen] = useState(about === "");
  const given = report.answers.filter((one) => one.key === about);
  return (
    <div className="pt-2">
      {given.map((one) => (
        <div key={one.id} className="border-l-4 border-rule py-1 pl-3">
          <p>{one.text}</p>
          {one.reply && (
            <p className="mt-1 border-l-4 border-amber pl-3">
              <b>Your coach:</b> {one.reply}
            </p>
          )}
        </div>
      ))}
      {answer && !open && (
        <button type="button" className="quiet" onClick={() => setOpen(true)}>
          Reply<span className="sr-only"> on {name}</span>
        </button>
      )}
      {answer && open && (
        <form
          className="flex flex-col items-start gap-2 pt-1"
          onSubmit={(event) => {
            event.preventDefault();
            void answer(about, text)
              .then(() => setText(""))
              .catch(() => undefined);
          }}
        >
          <textarea
            className="field"
            rows={2}
            maxLength={600}
            required
            aria-label={`Reply on ${name}`}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <button type="submit" className="act py-1!">
            Send to your coach
          </button>
        </form>
      )}
    </div>
  );
}
