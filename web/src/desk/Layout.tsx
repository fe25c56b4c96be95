import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import type { Match, Verdict } from "../api/client";
import { firstOf } from "../components/words";
import type { Command } from "./keys";

/** A button that was clicked gives the keys back to the desk, unless it belongs to a form; one reached with Tab keeps them. */
function giveBackKeys(desk: HTMLElement): void {
  requestAnimationFrame(() => {
    const { activeElement } = document;
    if (!(activeElement instanceof HTMLButtonElement) || !desk.contains(activeElement)) return;
    if (!activeElement.closest("form")) activeElement.blur();
  });
}

interface Props {
  match: Match;
  score: Verdict["score"];
  run: (command: Command) => void;
  /** Whether something could not be saved yet. */
  unsaved: boolean;
  /** What stands above the picture, where there is something. */
  above: ReactNode;
  picture: ReactNode;
  pad: ReactNode;
  sheet: ReactNode;
}

/**
 * The picture with the pad below it, and the sheet on the right. On a small screen the sheet is a drawer, and where that is
 * lower than wide, the pad stands next to the picture.
 */
export function Layout({ match, score, run, unsaved, above, picture, pad, sheet }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <div
      onPointerUp={(event) => giveBackKeys(event.currentTarget)}
      className="desk grid h-dvh grid-cols-[minmax(0,1fr)_284px] bg-night text-bone lg:min-h-[600px] xl:grid-cols-[minmax(0,1fr)_29vw] stacked:grid-cols-1"
    >
      <div className="flex min-h-0 min-w-0 flex-col lying:grid lying:grid-cols-[minmax(0,1fr)_minmax(300px,44%)] lying:grid-rows-[auto_minmax(0,1fr)]">
        <div className="lying:col-span-2">
          <Bar match={match} score={score} run={run} unsaved={unsaved} show={() => setOpen(true)} />
          {above}
        </div>
        <div className="flex min-h-0 flex-1 flex-col standing:flex-none standing:[&>[data-testid=stage]]:aspect-video standing:[&>[data-testid=stage]]:flex-none">
          {picture}
        </div>
        <section
          className="min-h-[160px] shrink-0 border-t-2 border-seam bg-deck stacked:min-h-0 stacked:flex-1 stacked:overflow-y-auto"
          aria-label="What can follow"
        >
          {pad}
        </section>
      </div>
      {open && (
        <button
          type="button"
          tabIndex={-1}
          aria-hidden
          className="fixed inset-0 z-10 hidden bg-night/70 stacked:block"
          onClick={() => setOpen(false)}
        />
      )}
      <div
        className={`flex min-h-0 flex-col stacked:fixed stacked:inset-y-0 stacked:right-0 stacked:z-20 stacked:w-[min(28rem,92vw)] ${open ? "" : "stacked:hidden"}`}
      >
        <button type="button" className="hidden bg-rail px-3 py-2 text-left stacked:block" onClick={() => setOpen(false)}>
          Close the sheet
        </button>
        {sheet}
      </div>
    </div>
  );
}

/** On a small screen, above the picture: the way back, the score, and the way to the sheet. */
function Bar({ match, score, run, unsaved, show }: Pick<Props, "match" | "score" | "run" | "unsaved"> & { show: () => void }) {
  return (
    <div className="hidden items-center gap-3 bg-deck px-2 py-1 stacked:flex">
      <Link to="/" className="quiet px-1 py-1.5 text-fog" aria-label="Matches">
        ←
      </Link>
      <span className="flex min-w-0 flex-1 items-center justify-center gap-2 text-[17px]" data-testid="small-score">
        <span className="truncate text-amber">{firstOf(match.athlete_name)}</span>
        <b className="bg-amber px-2 text-night">{score.a.points}</b>
        <b className="bg-sea px-2 text-night">{score.b.points}</b>
        <span className="truncate text-sea">{firstOf(match.opponent)}</span>
      </span>
      <button type="button" className="quiet px-1 py-1.5" onClick={() => run({ do: "undo" })}>
        Undo
      </button>
      <button type="button" className="border border-seam px-2.5 py-1.5" onClick={show}>
        {unsaved && <span className="font-semibold text-amber">Not saved · </span>}
        Sheet
      </button>
    </div>
  );
}
