import { useState } from "react";
import { footage, footageOf } from "../components/words";

/** A time of the footage that can be typed; what is no time is taken back. */
export function TimeField({ t, set }: { t: number; set: (t: number) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const found = typed === null ? t : footageOf(typed);
  return (
    <label className="flex items-baseline gap-1.5 whitespace-nowrap text-fog max-xl:text-[15px]">
      at
      <input
        aria-label="Time of this entry"
        aria-invalid={found === null}
        className={`desk-field w-24 py-0! ${found === null ? "border-alarm!" : ""}`}
        value={typed ?? footage(t)}
        onChange={(event) => {
          setTyped(event.target.value);
          const next = footageOf(event.target.value);
          event.target.setCustomValidity(next === null ? "Type a time such as 1:02.5" : "");
          if (next !== null) set(next);
        }}
        onBlur={(event) => {
          event.target.setCustomValidity("");
          setTyped(null);
        }}
      />
    </label>
  );
}
