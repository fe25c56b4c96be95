import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, type Clip, type Match, ok, type Part } from "../api/client";
import { Problem } from "../components/Problem";
import { clock, lengthOf } from "../components/words";
import { ClipPicker } from "../components/ClipPicker";
import { Sheet } from "./Sheet";
import { LooksForm } from "./Who";

const TIME = "\\d{1,3}:[0-5]\\d";

/** Seconds of `m:ss`. */
function secondsOf(text: string): number {
  const [minutes = "0", seconds = "0"] = text.split(":");
  return Number(minutes) * 60 + Number(seconds);
}

/** The clips of a match in their places. */
export function ClipsDialog({
  match,
  parts,
  open,
  setOpen,
}: {
  match: Match;
  parts: Part[];
  open: boolean;
  setOpen: (open: boolean) => void;
}) {
  const queries = useQueryClient();
  const lay = useMutation({
    mutationFn: (next: Part[]) =>
      ok(
        api.PUT("/api/matches/{match}/parts", {
          params: { path: { match: match.id } },
          body: { parts: next.map(({ clip, start }) => ({ clip: clip.id, start })) },
        }),
      ),
    onSuccess: (laid) => queries.setQueryData(["match", match.id], laid),
  });
  const end = Math.max(0, ...parts.map((part) => part.start + lengthOf(part.clip)));
  const add = (clip: Clip | null) => clip && lay.mutate([...parts, { clip, start: Math.ceil(end) }]);
  return (
    <Sheet title="Clips of this match" width="middle" open={open} setOpen={setOpen}>
      <ul>
        {parts.map((part, index) => (
          <PartRow
            key={`${part.clip.id}-${part.start}`}
            part={part}
            move={(start) => lay.mutate(parts.map((one, at) => (at === index ? { ...one, start } : one)))}
            takeOut={() => lay.mutate(parts.filter((_, at) => at !== index))}
          />
        ))}
      </ul>
      <p className="py-2 text-slate">
        {parts.length
          ? "A further clip is added after the last one; move it to leave a gap. Logged entries keep their times."
          : "This match has no clip yet."}
      </p>
      <ClipPicker clip={null} choose={add} />
      <Problem error={lay.error} />
      <LooksForm match={match} />
    </Sheet>
  );
}

/** One clip of the match: how long it is and where in the footage it begins. */
function PartRow({ part, move, takeOut }: { part: Part; move: (start: number) => void; takeOut: () => void }) {
  return (
    <li className="border-b border-rule py-1.5">
      <form
        className="flex items-baseline gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          move(secondsOf(String(new FormData(event.currentTarget).get("start"))));
        }}
      >
        <b className="min-w-0 flex-1 truncate">{part.clip.name}</b>
        <span className="text-slate">{clock(lengthOf(part.clip))} long</span>
        <label className="flex items-baseline gap-2">
          begins at{" "}
          <input
            name="start"
            className="field w-20!"
            required
            pattern={TIME}
            title="Minutes and seconds, e.g. 4:05"
            defaultValue={clock(part.start)}
          />
        </label>
        <button type="submit" className="quiet">
          Move
        </button>
        <button type="button" className="quiet" onClick={takeOut}>
          Remove
        </button>
      </form>
    </li>
  );
}
