import type { Keyed } from "../api/client";
import { plain } from "../components/search";
import { POSITION_WORDS } from "../components/words";
import { detailsOf } from "./answers";
import type { Command } from "./keys";

/** In the place of the pad, while the picture goes on: which guard, which mount it was, by a letter or a press. */
export function Details({ of, run, close }: { of: Keyed; run: (command: Command) => void; close: () => void }) {
  if (of.kind !== "position") return null;
  return (
    <div className="p-3" role="group" aria-label="Detail of the position">
      <p className="flex items-baseline gap-4 pb-2 text-fog">
        <span>
          <b className="text-bone">{POSITION_WORDS[of.position]}</b>: which one?
        </span>
        <button type="button" className="quiet" onClick={close}>
          None of these <span className="key">Esc</span>
        </button>
      </p>
      <div className="flex flex-wrap gap-1">
        {detailsOf(of.position).map(({ key, name, aliases }) => (
          <button
            key={key}
            type="button"
            onClick={() => run({ do: "detail", of: of.id, name })}
            className={`flex items-center gap-1.5 bg-rail px-2 py-[3px] hover:bg-seam ${of.detail === name ? "outline-2 -outline-offset-2 outline-bone" : ""}`}
          >
            <span className="key uppercase">{key}</span>
            {name}
            <span className="text-[14px] text-fog">{aliases.find((alias) => !plain(alias).includes(plain(name)))}</span>
          </button>
        ))}
      </div>
    </div>
  );
}
