import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type ClubData, ok } from "../api/client";
import { useClub } from "../api/session";
import { AskAgain } from "../components/AskAgain";
import { Confirm } from "../components/Confirm";
import { Exports, whileUnderWay, WillBeDeleted } from "../components/Exports";
import { JobWork } from "../components/JobWork";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";
import { dayOf, percent, sizeOf } from "../components/words";

const KEY = ["club-data"];

/** The club's data as a whole: how long clips are kept, exports, and the deletion of the club. */
export function DataPage() {
  const data = useQuery({
    queryKey: KEY,
    queryFn: () => ok(api.GET("/api/club/data")),
    refetchInterval: (query) => whileUnderWay([...(query.state.data?.exports ?? []), ...(query.state.data?.clearings ?? [])]),
  });
  return (
    <PaperPage title="The club’s data">
      <Problem error={data.error} />
      {data.data && (
        <div className="grid gap-x-12 gap-y-8 md:grid-cols-[1fr_340px]">
          <div className="flex flex-col gap-4">
            <Months key={data.data.months} months={data.data.months} />
            {data.data.months !== null && <OldClips key={data.data.old.length} old={data.data.old} />}
            <Clearings clearings={data.data.clearings} />
          </div>
          <div className="flex flex-col gap-8">
            <Everything exports={data.data.exports} />
            <Leaving data={data.data} />
          </div>
        </div>
      )}
    </PaperPage>
  );
}

function Months({ months }: { months: number | null }) {
  const [said, setSaid] = useState(months === null ? "" : String(months));
  const save = useDoing(KEY, () => ok(api.PUT("/api/club/data", { body: { months: said ? Number(said) : null } })));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate(undefined);
  };
  return (
    <section>
      <h2 className="border-b-2 border-rule pb-1 font-serif text-xl font-semibold">How long clips are kept</h2>
      <p className="py-3 text-slate">
        Older clips are proposed for deletion below, and the head coaches get a notice. Nothing is deleted before a head coach says so.
        Logs, scores and written reports stay.
      </p>
      <form onSubmit={submit} className="flex flex-wrap items-end gap-3">
        <label>
          <span className="mb-1 block font-semibold">Months</span>
          <input
            className="field w-28!"
            type="number"
            min={1}
            max={120}
            placeholder="always"
            value={said}
            onChange={(event) => setSaid(event.target.value)}
          />
        </label>
        <button type="submit" className="act" disabled={save.isPending}>
          Save
        </button>
      </form>
      <Problem error={save.error} />
    </section>
  );
}

function OldClips({ old }: { old: ClubData["old"] }) {
  const [kept, setKept] = useState<ReadonlySet<string>>(new Set());
  const chosen = old.filter((one) => !kept.has(one.id));
  const body = { clips: chosen.map((one) => one.id) };
  const remove = useDoing(KEY, () => ok(api.POST("/api/club/data/clips", { body })));
  const keep = useDoing(KEY, () => ok(api.PUT("/api/club/data/clips", { body })));
  const size = sizeOf(chosen.reduce((sum, one) => sum + one.size, 0));
  const clips = chosen.length === 1 ? "1 clip" : `${chosen.length} clips`;
  const choose = (id: string, on: boolean) => setKept(new Set(on ? [...kept].filter((one) => one !== id) : [...kept, id]));
  if (!old.length) return <p>No clip is older than that.</p>;
  return (
    <section>
      <ul className="max-h-96 overflow-auto border-t border-rule">
        {old.map((one) => (
          <li key={one.id} className="border-b border-rule py-1">
            <label className="flex items-baseline gap-3">
              <input
                type="checkbox"
                className="accent-amber-deep"
                checked={!kept.has(one.id)}
                onChange={(event) => choose(one.id, event.target.checked)}
              />
              <span className="min-w-0 flex-1 truncate">{one.name}</span>
              <span className="text-slate">
                {one.filmed ? `filmed ${dayOf(one.filmed)}` : `uploaded ${dayOf(one.created)}`},{" "}
                {one.matches === 1 ? "1 match" : `${one.matches} matches`}, {sizeOf(one.size)}
              </span>
            </label>
          </li>
        ))}
      </ul>
      {chosen.length > 0 && (
        <p className="flex gap-5 pt-3">
          <Confirm
            trigger={`Delete ${clips}, ${size}`}
            title={`Delete ${clips}?`}
            act="Delete"
            run={() => remove.mutate(undefined)}
            error={null}
          >
            The clips can&rsquo;t be restored, and pieces cut from them for reports go with them. Logs, scores and written reports stay.
          </Confirm>
          <button type="button" className="quiet" disabled={keep.isPending} onClick={() => keep.mutate(undefined)}>
            Keep {chosen.length === 1 ? "it" : "them"} as long again
          </button>
        </p>
      )}
      <Problem error={remove.error ?? keep.error} />
    </section>
  );
}

function Clearings({ clearings }: { clearings: ClubData["clearings"] }) {
  if (!clearings.length) return null;
  return (
    <section>
      <h3 className="font-semibold">Deleted so far</h3>
      <ul>
        {clearings.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center gap-x-4 border-b border-rule py-1">
            <span>
              {dayOf(one.created)}: {one.deleted === 1 ? "1 clip" : `${one.deleted} clips`}, {sizeOf(one.freed)}
            </span>
            {one.job && (
              <JobWork
                job={one.job}
                doing="Deletion of old clips"
                said={one.job.state === "failed" ? one.job.trouble : `${one.job.state}, ${percent(one.job.progress)}`}
                shown={[KEY]}
              />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Everything({ exports }: { exports: ClubData["exports"] }) {
  const ask = useDoing(KEY, () => ok(api.POST("/api/club/data/exports")));
  return (
    <section className="flex flex-col gap-3">
      <h2 className="border-b-2 border-rule pb-1 font-serif text-xl font-semibold">Export the club</h2>
      <p className="text-slate">
        A zip of athletes, matches, logs, reviews, rulesets and clips, in formats that other programs read. Of children it holds only those
        you are named for.
      </p>
      <Exports exports={exports} shown={[KEY]} />
      <button type="button" className="act self-start" disabled={ask.isPending} onClick={() => ask.mutate(undefined)}>
        Export everything
      </button>
      <AskAgain doing={ask} />
    </section>
  );
}

function Leaving({ data }: { data: ClubData }) {
  const club = useClub()?.name ?? "the club";
  const ask = useDoing(KEY, () => ok(api.POST("/api/club/data/deletion")));
  const stop = useDoing(KEY, () => ok(api.DELETE("/api/club/data/deletion")));
  return (
    <section className="flex flex-col gap-3">
      <h2 className="border-b-2 border-rule pb-1 font-serif text-xl font-semibold">Deletions</h2>
      {data.athletes.map((one) => (
        <p key={one.name}>
          Everything about {one.name} will be deleted on {dayOf(one.due)}, as {one.asked_by} asked. Only they can stop it.
        </p>
      ))}
      {data.deletion ? (
        <WillBeDeleted what={club} deletion={data.deletion} stop={() => stop.mutate(undefined)} busy={stop.isPending} />
      ) : (
        <p>
          <Confirm
            trigger="Delete the club"
            title={`Delete ${club}?`}
            act="Delete it in 30 days"
            run={() => ask.mutate(undefined)}
            error={null}
          >
            All athletes, matches, clips, reports and rulesets of the club are deleted in 30 days, for everyone in it. Until then it works
            as before, and a head coach can stop it. Export everything first.
          </Confirm>
        </p>
      )}
      <AskAgain doing={ask} />
      <Problem error={stop.error} />
    </section>
  );
}
