import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { api, type Division, type Entry, ok } from "../api/client";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { AskByName, Danger, Neighbours } from "./AskByName";
import { type Asked, briefingOf, useAsked, useOther } from "../components/asked";
import { Differences } from "./Differences";
import { DivisionPicker } from "./DivisionPicker";
import { OwnNames } from "./OwnNames";
import { Scoring } from "../components/Scoring";
import { Standing, type Status } from "./Standing";

/** What to know of a division before a match: how it is scored, what is barred, what comes next. */
export function RulebookPage() {
  const [asked, set] = useAsked();
  const [address] = useSearchParams();
  const lastEvent = useLastEvent(asked.athlete);
  const [other, setOther] = useOther(asked);
  const division = useQuery({
    queryKey: ["division", asked],
    queryFn: () => ok(api.GET("/api/division", { params: { query: asked } })),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  });
  const page = division.data;
  return (
    <PaperPage
      title="Rulebook"
      aside={
        <span className="flex flex-wrap gap-5">
          {!other && (
            <button type="button" className="quiet" onClick={() => setOther({})}>
              Compare with another division or ruleset
            </button>
          )}
          <a className="quiet" href={briefingOf(asked, other ?? lastEvent, "html")} target="_blank" rel="noreferrer">
            Briefing
          </a>
          <a className="quiet" href={briefingOf(asked, other ?? lastEvent, "pdf")} target="_blank" rel="noreferrer">
            as PDF
          </a>
          <Link className="quiet" to={{ pathname: "/rulebook/drill", search: address.toString() }}>
            Drill
          </Link>
          <Link className="quiet" to="/rulebook/house">
            House rules
          </Link>
        </span>
      }
    >
      <DivisionPicker asked={asked} set={set} name="Division" />
      <Problem error={division.error} />
      {other && <Differences asked={asked} other={other} set={(change) => setOther(change)} close={() => setOther(null)} />}
      {page && (
        <div className="pt-6">
          <p className="mb-4 border-l-4 border-amber-deep pl-3">{page.deference}</p>
          {page.doubts.map((doubt) => (
            <p key={doubt} role="note" className="mb-4 border-l-4 border-alarm pl-3">
              {doubt} Events differ: check with the organisers.
            </p>
          ))}
          <AskByName entries={page.techniques} asked={asked} />
          <div className="grid gap-x-12 gap-y-8 pt-8 lg:grid-cols-2">
            <HowItIsScored page={page} />
            <NextUp page={page} />
          </div>
          <Families page={page} />
        </div>
      )}
    </PaperPage>
  );
}

function HowItIsScored({ page }: { page: Division }) {
  return (
    <section>
      <h2 className="text-2xl font-semibold">How it is scored</h2>
      <Scoring page={page} />
    </section>
  );
}

/** The division and ruleset of an athlete's latest match: what a briefing is held against. */
function useLastEvent(athlete: string): Asked | null {
  const asked = { athlete_name: athlete, dated: true, page_size: 1 };
  const matches = useQuery({
    queryKey: ["matches", asked],
    queryFn: () => ok(api.GET("/api/matches", { params: { query: asked } })),
    enabled: athlete !== "",
  });
  const last = matches.data?.results[0];
  if (!last) return null;
  const { age, belt, attire, ruleset } = last;
  return { age, belt, attire, athlete, ruleset: typeof ruleset === "string" ? ruleset : JSON.stringify(ruleset) };
}

function NextUp({ page }: { page: Division }) {
  return (
    <section>
      <h2 className="pb-2 text-2xl font-semibold">What changes next</h2>
      <ul className="border-t-2 border-rule">
        {page.ahead.map((step) => (
          <li key={step.when} className="border-b border-rule py-2">
            <b>{step.when}</b>{" "}
            <span className="text-slate">
              ({step.belt} belt, age {step.age})
            </span>
            {step.doubts.map((doubt) => (
              <p key={doubt}>{doubt}</p>
            ))}
            {step.same && <p>{step.doubts.length > 0 ? "Else nothing changes." : "Nothing changes."}</p>}
            {step.length && <p>{step.length}</p>}
            {step.opened.length > 0 && (
              <p>
                <span className="font-semibold">Legal then:</span> {step.opened.join(", ")}.
              </p>
            )}
            {step.closed.length > 0 && (
              <p>
                <span className="font-semibold">No longer legal:</span> {step.closed.join(", ")}.
              </p>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

const FILTERS: Record<Status | "all", string> = { illegal: "illegal", stop: "stopped", legal: "legal", all: "all" };

function Families({ page }: { page: Division }) {
  const [shown, setShown] = useState<Status | "all">("illegal");
  const rows = page.techniques.filter((one) => shown === "all" || one.status === shown);
  const families = [...new Set(rows.map((one) => one.family))];
  return (
    <section className="pt-10">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2 border-b-2 border-rule pb-2">
        <h2 className="text-2xl font-semibold">Techniques</h2>
        <span role="group" aria-label="Show techniques that are" className="flex gap-4">
          {(Object.keys(FILTERS) as (Status | "all")[]).map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={shown === one}
              onClick={() => setShown(one)}
              className={`border-b-[3px] ${shown === one ? "border-amber-deep font-semibold" : "border-transparent hover:border-rule"}`}
            >
              {FILTERS[one]} {one === "all" ? page.techniques.length : page.techniques.filter((row) => row.status === one).length}
            </button>
          ))}
        </span>
      </div>
      {rows.length === 0 && <p className="py-4 text-slate">None in this division.</p>}
      {families.map((family) => (
        <section key={family} className="pt-5">
          <h3 className="font-serif text-xl font-semibold">{family}</h3>
          <ul className="grid gap-x-12 lg:grid-cols-2">
            {rows
              .filter((one) => one.family === family)
              .map((one) => (
                <Row key={one.id} entry={one} />
              ))}
          </ul>
        </section>
      ))}
    </section>
  );
}

function Row({ entry }: { entry: Entry }) {
  const [open, setOpen] = useState(false);
  return (
    <li className="border-b border-rule py-2">
      <details onToggle={(event) => setOpen(event.currentTarget.open)}>
        <summary className="flex flex-wrap items-baseline gap-x-3">
          <Standing status={entry.status} small />
          <span className="font-semibold">{entry.name}</span>
          {entry.status !== "legal" && <span className="text-slate">{entry.follows}</span>}
          {(entry.injures || entry.caution) && <span className="text-[14px] text-alarm">injures</span>}
        </summary>
        <div className="pt-1 pl-[4.75rem]">
          <p>{entry.because}</p>
          {entry.argued && <p className="text-slate">{entry.argued}</p>}
          <p className="text-slate">{entry.about}</p>
          <Neighbours entry={entry} />
          <Danger entry={entry} />
          {open && <OwnNames entry={entry} />}
        </div>
      </details>
    </li>
  );
}
