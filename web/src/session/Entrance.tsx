import type { ReactNode } from "react";
import { Brand } from "../components/PaperPage";

/** The page of everything that is done before one is signed in: what the product is for, and one thing to do. */
export function Entrance({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="grid min-h-screen md:grid-cols-[1fr_440px]">
      <Welcome />
      <main className="paper flex flex-col justify-center px-6 py-10 sm:px-12">
        <div className="mb-8 md:hidden">
          <Brand />
        </div>
        <h1 className="mb-6 text-[32px] font-semibold">{title}</h1>
        {children}
      </main>
    </div>
  );
}

/** What the product is for, on the dark half of a wide screen. */
function Welcome() {
  return (
    <section className="hidden flex-col justify-between bg-night p-12 text-bone md:flex">
      <Brand dark />
      <div>
        <Exchanges />
        <p className="mt-10 max-w-md font-serif text-[28px] leading-snug">Three seconds decide it. See them counted, and see why.</p>
      </div>
      <p className="max-w-md text-fog">The event&rsquo;s own rulebook, its referees and its medical staff overrule anything shown here.</p>
    </section>
  );
}

/** The spine in small: who gained what, down one line of time. */
function Exchanges() {
  const rows: [number, number][] = [
    [2, 0],
    [0, 2],
    [3, 0],
    [0, 1],
    [4, 0],
    [0, 3],
  ];
  return (
    <svg viewBox="0 0 420 214" className="w-full max-w-md" aria-hidden>
      <line x1="210" x2="210" y1="0" y2="214" stroke="var(--color-seam)" strokeWidth="3" />
      {rows.map(([a, b], row) => (
        <g key={row} transform={`translate(0 ${row * 36 + 8})`}>
          <rect x={204 - a * 40} width={a * 40} height="18" fill="var(--color-amber)" />
          <rect x="216" width={b * 40} height="18" fill="var(--color-sea)" />
          <circle cx="210" cy="9" r="5" fill="var(--color-bone)" />
        </g>
      ))}
    </svg>
  );
}
