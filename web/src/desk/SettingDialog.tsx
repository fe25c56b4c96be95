import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { api, ApiError, type Athlete, type Match, ok, type Preview } from "../api/client";
import { formOf, minutesOf, Rules, settingOf, useUsualLength, Who } from "../components/MatchFields";
import { Part } from "../components/fields";
import { Problem } from "../components/Problem";
import { clock, named } from "../components/words";
import { Sheet } from "../components/Sheet";

/** What this match is about, to be changed; what that does to the score is shown first. */
export function SettingDialog({ match, open, setOpen }: { match: Match; open: boolean; setOpen: (open: boolean) => void }) {
  return (
    <Sheet
      title="Match settings"
      width="middle"
      open={open}
      setOpen={setOpen}
      aside={
        <Link className="quiet" to={`/matches/new?from=${match.id}`}>
          Set up the next round
        </Link>
      }
    >
      <SettingForm match={match} close={() => setOpen(false)} />
    </Sheet>
  );
}

function SettingForm({ match, close }: { match: Match; close: () => void }) {
  const queries = useQueryClient();
  const [form, setForm] = useState(() => formOf(match));
  const set = (part: Partial<typeof form>) => setForm((now) => ({ ...now, ...part }));
  const usual = useUsualLength(form);
  const minutes = minutesOf(form, usual);
  const body = settingOf(form, minutes);
  const params = { path: { match: match.id } };
  const typed = JSON.stringify(body);
  const same = typed === JSON.stringify(settingOf(formOf(match), minutesOf(formOf(match), usual)));
  const preview = useQuery({
    queryKey: ["preview", match.id, typed],
    queryFn: () => ok(api.POST("/api/matches/{match}", { params, body })),
    enabled: !same && /^[0-9]{1,3}$/.test(form.age) && (form.endless || Number(minutes) > 0),
    placeholderData: (before) => before,
    retry: false,
  });
  const save = useMutation({
    mutationFn: () => ok(api.PATCH("/api/matches/{match}", { params, body })),
    onSuccess: () => queries.invalidateQueries().then(close),
  });
  const faults = [preview.error, save.error].flatMap((error) => (error instanceof ApiError ? error.faults.map((fault) => fault.path) : []));
  const take = (athlete: Athlete) => set({ athlete: String(athlete.id) });
  return (
    <form
      className="flex flex-col gap-6"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <Who form={form} set={set} take={take} />
      <Part title="Rules and division">
        <Rules {...{ form, set, minutes, usual, faults }} />
      </Part>
      <Problem error={save.error ?? preview.error} />
      {!same && preview.data && !preview.error && <Effect preview={preview.data} match={match} />}
      <span className="flex gap-5">
        <button type="submit" className="act" disabled={same || save.isPending || preview.isError}>
          {same ? "Nothing changed" : "Save"}
        </button>
        {!same && (
          <button type="button" className="quiet" onClick={() => setForm(formOf(match))}>
            Cancel
          </button>
        )}
      </span>
    </form>
  );
}

const MOST_ROWS = 6;

/** What the change does to the score, and to which of its rows. */
function Effect({ preview, match }: { preview: Preview; match: Match }) {
  const { before, after, gone, new: come } = preview;
  const points = ({ score: { a, b } }: typeof before) =>
    `${a.points}–${b.points}, advantages ${a.advantages}–${b.advantages}, penalties ${a.penalties}–${b.penalties}`;
  if (points(before) === points(after) && before.because === after.because && gone.length + come.length === 0)
    return (
      <p role="status" className="border-l-4 border-rule pl-3">
        The score stays as it is.
      </p>
    );
  return (
    <section role="status" aria-label="What this changes" className="border-l-4 border-amber-deep bg-sheet px-3 py-2">
      <p>
        <b>Now:</b> {points(before)}. {named(before.because, match)}
      </p>
      <p>
        <b>Then:</b> {points(after)}. {named(after.because, match)}
      </p>
      <Rows title="No longer" rows={gone} match={match} />
      <Rows title="New" rows={come} match={match} />
    </section>
  );
}

function Rows({ title, rows, match }: { title: string; rows: Preview["gone"]; match: Match }) {
  if (rows.length === 0) return null;
  return (
    <>
      <p className="pt-2 font-semibold">{title}</p>
      <ul>
        {rows.slice(0, MOST_ROWS).map((row, index) => (
          <li key={index}>
            <span className="text-slate">{clock(row.clock)}</span> {named(row.because, match)}
          </li>
        ))}
        {rows.length > MOST_ROWS && <li className="text-slate">and {rows.length - MOST_ROWS} more</li>}
      </ul>
    </>
  );
}
