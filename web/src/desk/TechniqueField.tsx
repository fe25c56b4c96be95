import Fuse from "fuse.js";
import { useId, useMemo, useState } from "react";
import { flushSync } from "react-dom";
import type { Technique } from "../api/client";

const SHOWN = 4;
const STATUS = { legal: "", illegal: "illegal here", stop: "the referee stops it" };

function rounded(hit: { score?: number }): number {
  return Math.round((hit.score ?? 1) * 10);
}

/** A name as it is compared while typing: without case, accents or marks. */
function plain(name: string): string {
  return name.normalize("NFKD").toLowerCase().replace(/[^a-z0-9]/g, "");
}

/** Finds a technique by any of its names, and says before it is logged whether this division allows it. */
export function TechniqueField({ value, set, techniques, recent, label }: { value: string; set: (value: string) => void; techniques: Technique[]; recent: string[]; label: string }) {
  const [lit, setLit] = useState(0);
  const list = useId();
  const names = useMemo(() => techniques.map((one) => ({ one, keys: [one.name, one.id, ...one.aliases].map(plain) })), [techniques]);
  const fuzzy = useMemo(() => new Fuse(names, { keys: ["keys"], threshold: 0.4, ignoreLocation: true, includeScore: true, minMatchCharLength: 2 }), [names]);
  const typed = plain(value);
  const found = useMemo(() => {
    const lately = (one: Technique) => {
      const at = recent.findIndex((name) => plain(name) === plain(one.id) || plain(name) === plain(one.name));
      return at < 0 ? recent.length : at;
    };
    if (!typed) return [...techniques].filter((one) => lately(one) < recent.length).sort((one, other) => lately(one) - lately(other)).slice(0, SHOWN);
    const rank = (keys: string[]) => Math.min(...keys.map((key) => (key === typed ? 0 : key.startsWith(typed) ? 1 : key.includes(typed) ? 2 : 9)));
    const spelled = names
      .map(({ one, keys }) => ({ one, rank: rank(keys) }))
      .filter((row) => row.rank < 9)
      .sort((row, other) => row.rank - other.rank || lately(row.one) - lately(other.one) || row.one.name.length - other.one.name.length)
      .map((row) => row.one);
    const near = spelled.length < SHOWN ? fuzzy.search(typed, { limit: 4 * SHOWN }) : [];
    const misspelt = near.sort((hit, other) => rounded(hit) - rounded(other) || hit.item.one.name.length - other.item.one.name.length).map((hit) => hit.item.one);
    return [...new Set([...spelled, ...misspelt])].slice(0, SHOWN);
  }, [fuzzy, names, recent, techniques, typed]);
  const chosen = techniques.find((one) => one.id === value);
  const choose = (one: Technique) => {
    set(one.id);
    setLit(0);
  };
  return (
    <div className="relative flex w-[38rem] max-w-full flex-col gap-1">
      <label className="flex items-center gap-2">
        <span className="text-fog">{label}</span>
        <input className="desk-field w-64" required autoFocus role="combobox" aria-expanded={!chosen && found.length > 0} aria-controls={list} aria-activedescendant={!chosen && found[lit] ? `${list}-${lit}` : undefined}
          aria-autocomplete="list" autoComplete="off" spellCheck={false} value={chosen ? chosen.name : value}
          onChange={(event) => {
            set(event.target.value);
            setLit(0);
          }}
          onKeyDown={(event) => {
            if (event.key === "ArrowDown" || event.key === "ArrowUp") {
              event.preventDefault();
              setLit((now) => Math.max(0, Math.min(found.length - 1, now + (event.key === "ArrowDown" ? 1 : -1))));
            }
            const one = found[lit];
            if (event.key === "Enter" && !chosen && one) {
              // One Enter takes the lit name and logs it: the form is sent with the name in place.
              flushSync(() => choose(one));
            }
          }} />
      </label>
      {chosen ? (
        <p className={`max-w-xl text-[15px] ${chosen.status === "legal" ? "text-fog" : "font-semibold text-bone"}`}>
          {chosen.status !== "legal" && <span className="mr-2 bg-bone px-1 text-night">{STATUS[chosen.status]}</span>}
          {chosen.because} {chosen.caution}
        </p>
      ) : (
        <>
          {found[lit] && found[lit].status !== "legal" && <p className="text-[15px] leading-snug">{found[lit].because}</p>}
          {/* The keyboard stays in the field; the list is walked with the arrows, or clicked. */}
          <div id={list} role="listbox" aria-label="Techniques" className="flex flex-wrap gap-1">
            {found.map((one, index) => (
              <div key={one.id} id={`${list}-${index}`} role="option" aria-selected={index === lit} onClick={() => choose(one)}
                className={`flex cursor-pointer items-baseline gap-2 border px-1.5 text-[15px] ${index === lit ? "border-bone bg-rail" : "border-seam"}`}>
                <span className="font-semibold">{one.name}</span>
                {one.status !== "legal" && <span className="bg-bone px-1 text-[14px] text-night">{STATUS[one.status]}</span>}
              </div>
            ))}
          </div>
          {typed && found.length === 0 && <p className="text-fog">Not in the catalogue; it can be logged, and is taken as legal.</p>}
        </>
      )}
    </div>
  );
}
