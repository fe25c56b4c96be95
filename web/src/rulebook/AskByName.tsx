import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { api, type Entry, ok, type TechniquePage } from "../api/client";
import { Combobox } from "../components/Combobox";
import { familyOf, plain, searcher } from "../components/search";
import { BELTS } from "../components/division";
import type { Asked } from "../components/asked";
import { Standing, STATUS_WORDS, type Status } from "./Standing";

const SHOWN = 5;

/** One field for any name: the answer for this division in a line, why, and where else it is legal. */
export function AskByName({ entries, asked }: { entries: Entry[]; asked: Asked }) {
  const [text, setText] = useState("");
  const search = useMemo(() => searcher(entries), [entries]);
  const typed = plain(text) !== "";
  const family = useMemo(() => familyOf(entries, text), [entries, text]);
  const found = useMemo(() => (family.length > 0 ? family : plain(text) ? search(text, SHOWN) : []), [family, search, text]);
  return (
    <section aria-label="Ask by name" className="border-t-4 border-amber-deep bg-sheet px-5 py-4">
      <Combobox
        label={<span className="font-serif text-xl font-semibold">Is it legal?</span>}
        labelClass="flex flex-wrap items-baseline gap-x-4 gap-y-1"
        list="Techniques of that name"
        value={text}
        type={setText}
        options={found}
        ask={family.length > 0}
        take={() => undefined}
        enter="nothing"
        input={{ className: "field max-w-md flex-1 text-lg!", placeholder: "any name: rnc, knee reap, jumping armlock…" }}
        listClass="mt-2 flex flex-wrap gap-2"
        optionClass={(lit) =>
          `flex cursor-pointer items-center gap-2 border-b-[3px] px-1 ${lit ? "border-amber-deep font-semibold" : "border-transparent hover:border-rule"}`
        }
        option={(row) => (
          <>
            {row.name} <span className="text-[14px] font-normal text-slate">{STATUS_WORDS[row.status]}</span>
          </>
        )}
        below={(one) =>
          one ? (
            <Answer key={one.id} entry={one} asked={asked} />
          ) : (
            typed && (
              <p className="mt-2 text-slate">
                {family.length > 0
                  ? "That may be any of these: choose the one you mean."
                  : "No technique by that name. Ask the event before you rely on it."}
              </p>
            )
          )
        }
      />
    </section>
  );
}

function Answer({ entry, asked }: { entry: Entry; asked: Asked }) {
  const page = useQuery({
    queryKey: ["technique", entry.id, asked],
    queryFn: () => ok(api.GET("/api/division/technique", { params: { query: { ...asked, technique: entry.id } } })),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  });
  return (
    <div className="mt-3 grid gap-x-8 gap-y-3 border-t border-rule pt-3 md:grid-cols-[minmax(0,1fr)_auto]" data-testid="answer">
      <div>
        <p className="flex flex-wrap items-center gap-3 text-lg">
          <Standing status={entry.status} /> <b>{entry.name}.</b> {entry.status !== "legal" && entry.follows}
        </p>
        <p className="mt-2">{entry.because}</p>
        {entry.argued && <p className="mt-1 text-slate">{entry.argued}</p>}
        <p className="mt-2 text-slate">{entry.about}</p>
        <Neighbours entry={entry} />
        <Danger entry={entry} />
      </div>
      {page.data?.id === entry.id && <Maps page={page.data} asked={asked} />}
    </div>
  );
}

/** What would make it illegal, and where rulebooks differ. */
export function Neighbours({ entry }: { entry: Pick<Entry, "neighbours" | "varies"> }) {
  return (
    <>
      {entry.neighbours.map((text) => (
        <p key={text} className="mt-1">
          {text}
        </p>
      ))}
      {entry.varies && <p className="mt-1 text-slate">{entry.varies}</p>}
    </>
  );
}

/** What it injures, the usual caution, and how to leave it in time. */
export function Danger({ entry }: { entry: Entry }) {
  if (!entry.injures && !entry.caution && entry.status === "legal") return <p className="mt-2 text-slate">{entry.danger}</p>;
  return (
    <p className="mt-2 border-l-4 border-alarm pl-3">
      {entry.injures && <b>Can injure the {entry.injures}. </b>}
      {entry.caution} {entry.danger}
    </p>
  );
}

/** Where over age and belt it is legal; gi and no-gi apart only where they differ. */
function Maps({ page, asked }: { page: TechniquePage; asked: Asked }) {
  const { gi, nogi } = page.map;
  const alike = JSON.stringify(gi) === JSON.stringify(nogi);
  return (
    <div className="flex max-w-md flex-wrap gap-x-6 gap-y-2">
      <AgeMap title={alike ? "Gi and no-gi" : "Gi"} bands={gi} asked={alike || asked.attire === "gi" ? asked : null} />
      {!alike && <AgeMap title="No-gi" bands={nogi} asked={asked.attire === "nogi" ? asked : null} />}
      <p className="w-full text-[14px] text-slate">Outlined: this division. Blank: belt not worn at that age.</p>
    </div>
  );
}

const CELL: Record<Status, string> = { legal: "bg-amber-pale", stop: "hatched bg-sheet", illegal: "bg-ink text-bone" };
const MARK: Record<Status, string> = { legal: "yes", stop: "stop", illegal: "no" };

function AgeMap({ title, bands, asked }: { title: string; bands: TechniquePage["map"]["gi"]; asked: Asked | null }) {
  const worn = BELTS.filter((belt) => bands.some((band) => band.statuses[belt]));
  return (
    <table className="border-separate border-spacing-[2px] self-start text-[14px]">
      <caption className="pb-1 text-left font-semibold">{title}</caption>
      <thead>
        <tr>
          <th scope="col">
            <span className="sr-only">Belt</span>
          </th>
          {bands.map((band) => (
            <th key={band.from} scope="col" className="px-1 font-normal text-slate">
              {ages(band)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {worn.map((belt) => (
          <tr key={belt}>
            <th scope="row" className="pr-2 text-left font-normal text-slate">
              {belt}
            </th>
            {bands.map((band) => {
              const status = band.statuses[belt];
              const here = asked !== null && asked.belt === belt && asked.age >= band.from && (band.to === null || asked.age <= band.to);
              return (
                <td
                  key={band.from}
                  className={`h-6 w-14 text-center leading-5 ${status ? CELL[status] : ""} ${here ? "outline-3 outline-amber-deep" : ""}`}
                >
                  {status ? MARK[status] : <span className="sr-only">not worn</span>}
                  {here && <span className="sr-only"> (this division)</span>}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function ages(band: { from: number; to: number | null }): string {
  return band.to === null ? `${band.from}+` : `${band.from}–${band.to}`;
}
