import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useId, useRef } from "react";
import { Link } from "react-router";
import { api, type Clip, type Match, ok, type Part } from "../api/client";
import { Problem } from "../components/Problem";
import { beginOf, endOf, placed, whole } from "../components/parts";
import { clock, lengthOf, secondsOf, TIME_PATTERN } from "../components/words";
import { ClipPicker } from "../components/ClipPicker";
import { Sheet } from "../components/Sheet";
import { LooksForm } from "./Who";

/** The clips of a match in their places, and which part of each the match is in. */
export function ClipsDialog({
  match,
  parts,
  now,
  open,
  setOpen,
}: {
  match: Match;
  parts: Part[];
  /** The time of the footage at the playhead, in seconds. */
  now: () => number;
  open: boolean;
  setOpen: (open: boolean) => void;
}) {
  const queries = useQueryClient();
  const lay = useMutation({
    mutationFn: (next: Part[]) =>
      ok(api.PUT("/api/matches/{match}/parts", { params: { path: { match: match.id } }, body: { parts: placed(next) } })),
    onSuccess: (laid) => queries.setQueryData(["match", match.id], laid),
  });
  const end = Math.max(0, ...parts.map(endOf));
  const add = (clip: Clip | null) => clip && lay.mutate([...parts, whole(clip, Math.ceil(end))]);
  return (
    <Sheet title="Clips of this match" width="middle" open={open} setOpen={setOpen}>
      <ul>
        {parts.map((part, index) => (
          <PartRow
            key={`${part.clip.id}-${part.start}-${part.opens}-${part.closes}`}
            part={part}
            now={now}
            change={(changed) => lay.mutate(parts.map((one, at) => (at === index ? changed : one)))}
            takeOut={() => lay.mutate(parts.filter((_, at) => at !== index))}
            next={match.second_of === null ? `/matches/new?from=${match.id}&clip=${part.clip.id}&opens=${part.closes ?? 0}` : null}
          />
        ))}
      </ul>
      <p className="py-2 text-slate">
        {parts.length
          ? "If the clip holds several matches, say where this one begins and ends in it. A further clip is added after the last one. Logged entries keep their times."
          : "This match has no clip yet."}
      </p>
      <ClipPicker clip={null} choose={add} />
      <Problem error={lay.error} />
      <LooksForm match={match} />
    </Sheet>
  );
}

/** One clip of the match: which part of it the match is in, and where in the footage that begins. */
function PartRow({
  part,
  now,
  change,
  takeOut,
  next,
}: {
  part: Part;
  now: () => number;
  change: (part: Part) => void;
  takeOut: () => void;
  /** Where the next match in the same clip is set up. */
  next: string | null;
}) {
  const length = lengthOf(part.clip);
  const here = () => Math.max(0, Math.min(length, now() - part.start));
  const read = (form: HTMLFormElement) => {
    const said = new FormData(form);
    const time = (name: string) => secondsOf(String(said.get(name)));
    const [opens, closes, begins] = [time("opens"), time("closes"), time("begins")];
    // What is taken of the clip leaves its place alone; only another beginning moves it.
    const start = begins === Math.floor(beginOf(part)) ? part.start : begins - opens;
    change({ ...part, opens, closes: closes >= Math.floor(length) ? null : closes, start });
  };
  return (
    <li className="border-b border-rule py-2">
      <form
        className="flex flex-wrap items-baseline gap-x-4 gap-y-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          read(event.currentTarget);
        }}
      >
        <b className="min-w-0 flex-1 basis-full truncate">
          {part.clip.name} <span className="font-normal text-slate">({clock(length)} long)</span>
        </b>
        <Time name="opens" label="The match is from" at={part.opens} here={here} />
        <Time name="closes" label="to" at={part.closes ?? length} here={here} after="in the clip" />
        <Time name="begins" label="Footage time there" at={beginOf(part)} />
        <button type="submit" className="quiet">
          Apply
        </button>
        <span className="ml-auto flex gap-4">
          {next && (
            <Link to={next} className="quiet">
              Another match in this clip, from {clock(part.closes ?? 0)}
            </Link>
          )}
          <button type="button" className="quiet" onClick={takeOut}>
            Remove
          </button>
        </span>
      </form>
    </li>
  );
}

function Time({
  name,
  label,
  at,
  here,
  after,
}: {
  name: string;
  label: string;
  at: number;
  /** The time at the playhead, to be taken by a click. */
  here?: () => number;
  after?: string;
}) {
  const id = useId();
  const field = useRef<HTMLInputElement>(null);
  const take = () => {
    if (field.current && here) field.current.value = clock(here());
  };
  return (
    <span className="flex items-baseline gap-2">
      <label htmlFor={id}>{label}</label>
      <input
        ref={field}
        id={id}
        name={name}
        className="field w-20!"
        required
        pattern={TIME_PATTERN}
        title="Minutes and seconds, e.g. 4:05"
        defaultValue={clock(at)}
      />
      {here && (
        <button type="button" className="quiet" aria-label={`${label}: the moment shown now`} title="The moment shown now" onClick={take}>
          here
        </button>
      )}
      {after}
    </span>
  );
}
