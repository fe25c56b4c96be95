import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useDropzone } from "react-dropzone";
import { Link } from "react-router";
import { useAthletes } from "../api/athletes";
import { api, type Athlete, type Clip, type Match, ok } from "../api/client";
import { choiceOf } from "../api/rulesets";
import { ClipWork } from "../components/ClipPicker";
import { Confirm } from "../components/Confirm";
import { Label, Part, Typed } from "../components/fields";
import { Bar, underWay } from "../components/JobWork";
import { ageOn, EMPTY, type Form, MINUTE_MS, RulesetField, settingOf, useRemembered } from "../components/MatchFields";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { clock, lengthOf, dayOf } from "../components/words";
import { Poster } from "../components/Poster";
import { type Sending, useUploads } from "./useUploads";

/** So many athletes are offered as buttons; more of them as a list. */
const MOST_BUTTONS = 10;
const LOOK_EVERY_MS = 1000;
/** Stands where nobody has typed who the opponent is; it can be changed at the desk. */
const UNNAMED = "Opponent";

/** Set up the matches of one event together: upload all clips, then say of each whose match it is. */
export function Several() {
  const [form, setForm] = useState<Form>(EMPTY);
  const set = (part: Partial<Form>) => setForm((now) => ({ ...now, ...part }));
  const uploads = useUploads();
  return (
    <PaperPage title="Several matches at once">
      <div className="flex flex-col gap-8">
        <EventFields form={form} set={set} />
        <Part title="The clips">
          <div className="sm:col-span-2">
            <Choose add={uploads.add} />
            {uploads.list.length > 0 && (
              <ul aria-label="Uploads" className="mt-3">
                {uploads.list.map((one) => (
                  <Upload key={one.number} one={one} cancel={() => uploads.cancel(one.number)} />
                ))}
              </ul>
            )}
          </div>
        </Part>
        <Drafts form={form} sending={uploads.list.length > 0} />
      </div>
    </PaperPage>
  );
}

/** What all the matches have in common. */
function EventFields({ form, set }: { form: Form; set: (part: Partial<Form>) => void }) {
  const remembered = useRemembered();
  const at = (event: string) => {
    const known = remembered.events.find((one) => one.event === event);
    set({ event, ...(known ? { ruleset: choiceOf(known.ruleset), date: form.date || (known.date ?? "") } : {}) });
  };
  return (
    <Part title="The event">
      <Typed text="Event" most={120} value={form.event} offered={remembered.events.map((one) => one.event)} set={at} />
      <Label text="Date" note="Empty: the day each clip was filmed">
        <input className="field" type="date" value={form.date} onChange={(event) => set({ date: event.target.value })} />
      </Label>
      <RulesetField value={form.ruleset} set={(ruleset) => set({ ruleset })} />
      <Label text="Gi or no-gi">
        <select className="field" value={form.attire} onChange={(event) => set({ attire: event.target.value as Match["attire"] })}>
          <option value="gi">gi</option>
          <option value="nogi">no-gi</option>
        </select>
      </Label>
    </Part>
  );
}

/** Choose clips, a folder of them, or drop either here. */
function Choose({ add }: { add: (files: File[]) => void }) {
  const videos = (files: File[]) => files.filter((file) => file.type.startsWith("video/") || /\.(mkv|mts|m2ts|ts|avi)$/i.test(file.name));
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => add(videos(files)),
  });
  return (
    <div
      {...getRootProps()}
      className={`flex flex-wrap items-center gap-4 border-2 border-dashed px-4 py-5 ${isDragActive ? "border-amber-deep bg-sheet" : "border-rule"}`}
    >
      <input {...getInputProps({ accept: "video/*,.mkv,.mts,.m2ts", "aria-label": "Clips" })} />
      <button type="button" className="act" onClick={open}>
        Choose clips
      </button>
      <label className="quiet has-focus-visible:outline-2">
        Choose a folder
        <input
          type="file"
          className="sr-only"
          multiple
          {...{ webkitdirectory: "" }}
          onChange={(event) => {
            add(videos([...(event.target.files ?? [])]));
            event.target.value = "";
          }}
        />
      </label>
      <span className="text-slate">or drop clips or a whole folder here. Only you can see them.</span>
    </div>
  );
}

function Upload({ one, cancel }: { one: Sending; cancel: () => void }) {
  return (
    <li className="flex flex-wrap items-center gap-3 border-b border-rule py-1.5">
      <b className="min-w-0 flex-1 truncate">{one.name}</b>
      {one.state === "failed" ? (
        <span role="alert" className="text-alarm">
          {one.trouble}
        </span>
      ) : (
        <>
          <Bar share={one.share} name={`Uploading ${one.name}`} dark={false} />
          <span className="w-24">{one.state === "waiting" ? "next in line" : `${Math.floor(one.share * 100)}%`}</span>
        </>
      )}
      <button type="button" className="quiet" onClick={cancel}>
        {one.state === "failed" ? "Dismiss" : "Cancel"}
      </button>
    </li>
  );
}

/** The clips that no match was set up for, each with whose match it may be. */
function Drafts({ form, sending }: { form: Form; sending: boolean }) {
  const clips = useQuery({
    queryKey: ["unused-clips"],
    queryFn: () => ok(api.GET("/api/unused-clips")),
    staleTime: 0,
    refetchInterval: (query) => (query.state.data?.some((one) => underWay(one.job)) ? LOOK_EVERY_MS : false),
  });
  const athletes = useAthletes().data ?? [];
  const [made, setMade] = useState<Match[]>([]);
  return (
    <Part title="Whose match is it?">
      <div className="sm:col-span-2">
        <Problem error={clips.error} />
        {clips.data?.length === 0 && !sending && made.length === 0 && (
          <p className="text-slate">Clips without a match stand here, each as a draft. Choose clips above to begin.</p>
        )}
        {athletes.length === 0 && (
          <p>
            You have no athletes yet.{" "}
            <Link className="quiet" to="/athletes">
              Add them first.
            </Link>
          </p>
        )}
        <ul>
          {clips.data?.map((clip) => (
            <Draft key={clip.id} clip={clip} form={form} athletes={athletes} done={(match) => setMade((now) => [match, ...now])} />
          ))}
        </ul>
        {made.length > 0 && <Made matches={made} />}
      </div>
    </Part>
  );
}

/** The setting of a match of an athlete at the event, as the division has it. Raises where no length is usual. */
async function settingFor(form: Form, athlete: Athlete, clip: Clip, opponent: string) {
  const date = form.date || (clip.filmed ?? "");
  const age = ageOn(date, athlete);
  const { belt } = athlete;
  const usual = await ok(api.GET("/api/division/length", { params: { query: { age: Number(age), belt, attire: form.attire } } }));
  if (usual.match_length === null) throw new Error("No length is usual for this division. Set this match up as a new match.");
  const whole = { ...form, athlete: String(athlete.id), opponent: opponent.trim() || UNNAMED, date, age, belt };
  return { ...settingOf(whole, String((usual.match_length * 1000) / MINUTE_MS)), clip: clip.id };
}

/** One clip without a match: a click on an athlete sets the match up. */
function Draft({ clip, form, athletes, done }: { clip: Clip; form: Form; athletes: Athlete[]; done: (match: Match) => void }) {
  const [opponent, setOpponent] = useState("");
  const remembered = useRemembered();
  const queries = useQueryClient();
  const setUp = useMutation({
    mutationFn: async (athlete: Athlete) => ok(api.POST("/api/matches", { body: await settingFor(form, athlete, clip, opponent) })),
    onSuccess: (match) => {
      done(match);
      return Promise.all(
        ["unused-clips", "waiting", "matches", "remembered"].map((name) => queries.invalidateQueries({ queryKey: [name] })),
      );
    },
  });
  const remove = useMutation({
    mutationFn: () => ok(api.DELETE("/api/clips/{clip}", { params: { path: { clip: clip.id } } })),
    onSuccess: () => Promise.all(["unused-clips", "clips", "waiting"].map((name) => queries.invalidateQueries({ queryKey: [name] }))),
  });
  const pictured = clip.job?.state === "done";
  return (
    <li className="grid gap-x-5 gap-y-2 border-t border-rule py-3 md:grid-cols-[112px_1fr]">
      <div className="hidden h-[63px] w-28 bg-night md:block">
        {pictured && <Poster clip={clip.id} className="h-full w-full object-cover" />}
      </div>
      <div className="flex min-w-0 flex-col gap-2">
        <p className="flex flex-wrap items-baseline gap-x-4">
          <b className="min-w-0 truncate">{clip.name}</b>
          <span className="text-slate">
            {[clip.filmed && `filmed ${dayOf(clip.filmed)}`, `${clock(lengthOf(clip))} long`].filter(Boolean).join(" · ")}
          </span>
          <span className="ml-auto">
            <Confirm
              trigger="Delete clip"
              label={`Delete ${clip.name}`}
              title="Delete this clip?"
              act="Delete the clip"
              run={() => remove.mutate()}
              error={remove.error}
            >
              {clip.name} is removed from the server. This can't be undone.
            </Confirm>
          </span>
        </p>
        <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
          <span className="w-56">
            <Typed
              text="Opponent (if you know)"
              most={80}
              value={opponent}
              offered={remembered.opponents.map((one) => one.opponent)}
              set={setOpponent}
            />
          </span>
          <Whose athletes={athletes} busy={setUp.isPending} choose={(athlete) => setUp.mutate(athlete)} />
        </div>
        <Problem error={setUp.error} />
        <ClipWork clip={clip} />
      </div>
    </li>
  );
}

/** The athletes as buttons, or as a list where there are many. */
function Whose({ athletes, busy, choose }: { athletes: Athlete[]; busy: boolean; choose: (athlete: Athlete) => void }) {
  if (athletes.length > MOST_BUTTONS) {
    return (
      <select
        aria-label="Athlete"
        className="field w-auto!"
        value=""
        disabled={busy}
        onChange={(event) => {
          const found = athletes.find((one) => String(one.id) === event.target.value);
          if (found) choose(found);
        }}
      >
        <option value="">Athlete…</option>
        {athletes.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
    );
  }
  return (
    <span role="group" aria-label="Athlete" className="flex flex-wrap gap-2">
      {athletes.map((one) => (
        <button
          key={one.id}
          type="button"
          disabled={busy}
          className="border-2 border-rule bg-sheet px-2.5 py-1.5 hover:border-amber-deep"
          onClick={() => choose(one)}
        >
          {one.name}
        </button>
      ))}
    </span>
  );
}

function Made({ matches }: { matches: Match[] }) {
  return (
    <div role="status" className="mt-4 border-l-4 border-amber-deep bg-sheet px-3 py-2">
      <b>Set up just now</b>
      <ul>
        {matches.map((match) => (
          <li key={match.id}>
            <Link className="quiet" to={`/matches/${match.id}`}>
              {match.athlete_name} against {match.opponent}
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}
