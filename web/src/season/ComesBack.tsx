import { type ReactNode, useState } from "react";
import { useLocation } from "react-router";
import type { Recurring, Season, SeasonFigures } from "../api/client";
import { Behind } from "../components/Moments";
import { matchesWords } from "../components/words";
import { Title } from "./parts";

type Order = "cost" | "often" | "began";

const ORDERS: Record<Order, { name: string; of: (row: Recurring) => number }> = {
  cost: { name: "by cost", of: (row) => row.cost.lost * 100 + row.cost.points / 10 },
  often: { name: "by how often", of: (row) => row.n },
  began: { name: "by what came of it", of: (row) => (row.began ? row.chain.lost * 100 + row.chain.points / 10 + 0.001 : 0) },
};

/** Whoever followed a link to the errors sees them first. */
function comeHere(section: HTMLElement | null) {
  section?.scrollIntoView();
}

/** Errors over the season by kind and by cause, and what is done well, each held before a day against since. */
export function ComesBack({
  found,
  played,
  split,
  setSplit,
  children,
}: {
  found: SeasonFigures;
  played: Season["played"];
  split: string;
  setSplit: (day: string) => void;
  /** Of which matches the errors are. */
  children: ReactNode;
}) {
  const { hash } = useLocation();
  const [order, setOrder] = useState<Order>("cost");
  const rows = [...found.kinds].sort((one, other) => ORDERS[order].of(other) - ORDERS[order].of(one));
  return (
    <section id="errors" ref={hash === "#errors" ? comeHere : undefined}>
      <Title>What comes back</Title>
      <p className="flex flex-wrap items-baseline gap-x-6 gap-y-2 pb-3 text-slate">
        <span>{children}</span>
        <label className="flex items-baseline gap-2">
          Order
          <select className="field w-48!" value={order} onChange={(event) => setOrder(event.target.value as Order)}>
            {Object.entries(ORDERS).map(([value, { name }]) => (
              <option key={value} value={value}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-baseline gap-2">
          Before and since
          <input
            type="date"
            className="field w-44!"
            value={split || (found.split ?? "")}
            onChange={(event) => setSplit(event.target.value)}
          />
        </label>
      </p>
      {found.kinds.length === 0 && <p>No errors were found yet.</p>}
      <Rows rows={rows} played={played} chains={order === "began"} />
      {found.causes.length > 0 && (
        <>
          <h3 className="pt-5 font-semibold">By the causes you named</h3>
          <Rows rows={found.causes} played={played} />
        </>
      )}
      {found.well.length > 0 && (
        <>
          <h3 className="pt-5 font-semibold">Done well</h3>
          <Rows rows={found.well} played={played} />
        </>
      )}
    </section>
  );
}

function Rows({ rows, played, chains = false }: { rows: Recurring[]; played: Season["played"]; chains?: boolean }) {
  return (
    <ul>
      {rows.map((row) => (
        <li key={row.id} className="grid gap-x-6 border-b border-rule py-2 sm:grid-cols-[17rem_1fr_auto]">
          <span className="font-semibold">{row.name}</span>
          <span>
            {row.change.said}.
            <span className="block text-slate">{chains ? chainWords(row) : row.cost.said && `Cost: ${row.cost.said}.`}</span>
          </span>
          <span className="text-right">
            <Behind words={`${row.n} in ${matchesWords(row.matches)}`} title={row.name} moments={row.moments} played={played} />
          </span>
        </li>
      ))}
    </ul>
  );
}

/** What began with a kind of error, and what it cost with all that came of it. */
function chainWords({ began, chain }: Recurring): string {
  if (!began) return "No chain of errors began with it.";
  return `${began} of them began a chain${chain.said && `. Cost in all: ${chain.said}`}.`;
}
