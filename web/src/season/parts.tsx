import type { ReactNode } from "react";
import type { Tried } from "../api/client";
import { percent } from "../components/words";

export function Title({ children }: { children: string }) {
  return <h2 className="mb-2 border-b-2 border-rule pb-1 font-serif text-2xl font-semibold">{children}</h2>;
}

/** Where a true share lies, nine times in ten, with the share that was seen as a line in it. */
export function ShareBar({ share, said, colour = "bg-amber" }: { share: Omit<Tried["share"], "said">; said: string; colour?: string }) {
  return (
    <span className="relative block h-3 bg-rule" role="img" aria-label={said} title={said}>
      <span className={`absolute inset-y-0 ${colour}`} style={{ left: percent(share.low), right: percent(1 - share.high) }} />
      {share.of > 0 && <span className="absolute inset-y-[-3px] w-0.5 bg-ink" style={{ left: percent(share.estimate) }} />}
    </span>
  );
}

/** A table with its head, whose columns but the first are numbers. */
export function Numbers({ head, children }: { head: string[]; children: ReactNode }) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full max-w-4xl">
        <thead>
          <tr className="border-b border-rule text-left align-bottom">
            {head.map((name, number) => (
              <th key={name} className={`font-semibold ${number ? "pl-4 text-right" : ""}`}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </table>
    </div>
  );
}

export function NumbersRow({ cells }: { cells: ReactNode[] }) {
  return (
    <tr className="border-b border-rule align-baseline">
      {cells.map((cell, number) => (
        <td key={number} className={number ? "pl-4 text-right" : ""}>
          {cell}
        </td>
      ))}
    </tr>
  );
}
