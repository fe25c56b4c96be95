import { useMutation, useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { useAthletes } from "../api/athletes";
import { api, ApiError, type Athlete, type NewMatch as NewMatchBody, ok } from "../api/client";
import { AthleteForm } from "../components/AthleteForm";
import { ClipPicker } from "../components/ClipPicker";
import { ageOn, EMPTY, type Form, formOf, minutesOf, Rules, settingOf, useUsualLength, Who } from "../components/MatchFields";
import { Part } from "../components/fields";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { clock, secondsOf, TIME_PATTERN, today } from "../components/words";

/** What is taken of a clip: from and to as they are typed, empty for its beginning and its end. */
interface Taken {
  clip: string | null;
  opens: string;
  closes: string;
}

interface OpenedLog {
  name: string;
  body: unknown;
}

/** Whose match a log is of, and where it was, as far as its file says so. */
function aboutOf(log: OpenedLog | null): Partial<Record<"athlete" | "opponent" | "club" | "event" | "date" | "round", string>> {
  const said = (log?.body as { match?: unknown } | null)?.match;
  if (typeof said !== "object" || said === null) return {};
  const names = ["athlete", "opponent", "club", "event", "date", "round"] as const;
  const found = said as Record<string, unknown>;
  return Object.fromEntries(names.flatMap((name) => (typeof found[name] === "string" ? [[name, found[name]]] : [])));
}

/** What is sent to set a match up: with a log, its rules and division come from there. */
function bodyOf(form: Form, minutes: string, taken: Taken, log: OpenedLog | null): NewMatchBody {
  const { plan, ruleset, duration_ms, age, belt, attire, ...who } = settingOf(form, minutes);
  const footage = {
    clip: taken.clip,
    opens_ms: taken.opens ? secondsOf(taken.opens) * 1000 : 0,
    closes_ms: taken.closes ? secondsOf(taken.closes) * 1000 : null,
  };
  if (log) return { ...who, ...footage, log: log.body };
  return { ...who, ...footage, plan, ruleset, duration_ms, age, belt, attire };
}

/** The setting of the match that is named in the address, for the next round: all but the opponent. */
function useEarlier() {
  const [address] = useSearchParams();
  const from = address.get("from");
  return useQuery({
    queryKey: ["match", from],
    queryFn: () => ok(api.GET("/api/matches/{match}", { params: { path: { match: from ?? "" } } })),
    enabled: from !== null,
  });
}

export function NewMatch() {
  const earlier = useEarlier();
  if (earlier.isLoading)
    return (
      <PaperPage title="New match">
        <p className="text-slate">Loading…</p>
      </PaperPage>
    );
  return (
    <SetUp start={earlier.data ? { ...formOf(earlier.data.match), opponent: "", club: "", round: "" } : { ...EMPTY, date: today() }} />
  );
}

function SetUp({ start }: { start: Form }) {
  const [form, setForm] = useState(start);
  const [address] = useSearchParams();
  const opens = Number(address.get("opens"));
  const [taken, setTaken] = useState<Taken>({ clip: address.get("clip"), opens: opens ? clock(opens) : "", closes: "" });
  const [log, setLog] = useState<OpenedLog | null>(null);
  const [unread, setUnread] = useState<Error | null>(null);
  const navigate = useNavigate();
  const set = (part: Partial<Form>) => setForm((now) => ({ ...now, ...part }));
  const usual = useUsualLength(form);
  const minutes = minutesOf(form, usual);
  const setUp = useMutation({
    mutationFn: () => ok(api.POST("/api/matches", { body: bodyOf(form, minutes, taken, log) })),
    onSuccess: (match) => void navigate(`/matches/${match.id}`),
  });
  const faults = setUp.error instanceof ApiError ? setUp.error.faults.map((fault) => fault.path) : [];
  const take = (athlete: Athlete) => {
    set({ athlete: String(athlete.id), age: ageOn(form.date, athlete), belt: athlete.belt });
  };
  const athletes = useAthletes().data;
  // An exported log says whose match it was.
  const openLog = (opened: OpenedLog | null) => {
    setLog(opened);
    const { athlete: name, ...about } = aboutOf(opened);
    set(about);
    const known = athletes?.find((one) => one.name === name);
    if (known) take(known);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setUp.mutate();
  };
  return (
    <PaperPage title="New match">
      <div className="grid gap-x-14 gap-y-8 lg:grid-cols-[1fr_300px]">
        <form onSubmit={submit} className="flex flex-col gap-8">
          <Footage taken={taken} set={setTaken} />
          <Who form={form} set={set} take={take} />
          <Part title="Rules and division">
            {log ? (
              <FromLog name={log.name} leave={() => setLog(null)} />
            ) : (
              <Rules form={form} set={set} minutes={minutes} usual={usual} faults={faults} />
            )}
          </Part>
          <OpenLog open={openLog} fail={setUnread} />
          <Problem error={unread ?? setUp.error} />
          <button type="submit" className="act self-start" disabled={setUp.isPending}>
            {setUp.isPending ? "Setting up…" : "Go to the desk"}
          </button>
        </form>
        <aside className="border-l-2 border-rule pl-6">
          <AthleteForm athlete={null} done={take} />
        </aside>
      </div>
    </PaperPage>
  );
}

function FromLog({ name, leave }: { name: string; leave: () => void }) {
  return (
    <p className="sm:col-span-2">
      Taken from <strong>{name}</strong>.{" "}
      <button type="button" className="quiet" onClick={leave}>
        Enter them here instead
      </button>
    </p>
  );
}

/** The clip of the match, and which part of it. */
function Footage({ taken, set }: { taken: Taken; set: (taken: Taken) => void }) {
  return (
    <Part title="Footage">
      <div className="sm:col-span-2">
        <ClipPicker clip={taken.clip} choose={(one) => set({ clip: one?.id ?? null, opens: "", closes: "" })} />
        {taken.clip && <PartOfClip taken={taken} set={set} />}
      </div>
    </Part>
  );
}

/** Where in the clip the match is, for a clip that holds several. */
function PartOfClip({ taken, set }: { taken: Taken; set: (taken: Taken) => void }) {
  const field = (name: "opens" | "closes", label: string, placeholder: string) => (
    <label className="flex items-baseline gap-2">
      {label}
      <input
        className="field w-24!"
        pattern={TIME_PATTERN}
        title="Minutes and seconds, e.g. 4:05"
        placeholder={placeholder}
        value={taken[name]}
        onChange={(event) => set({ ...taken, [name]: event.target.value })}
      />
    </label>
  );
  return (
    <p className="flex flex-wrap items-baseline gap-x-3 gap-y-2 pt-3">
      {field("opens", "This match is from", "0:00")}
      {field("closes", "to", "the end")}
      <span className="text-slate">of the clip, if it holds several matches.</span>
    </p>
  );
}

/** A match that was scored elsewhere. */
function OpenLog({ open, fail }: { open: (log: OpenedLog | null) => void; fail: (error: Error | null) => void }) {
  const read = async (file: File) => {
    fail(null);
    try {
      open({ name: file.name, body: JSON.parse(await file.text()) });
    } catch {
      open(null);
      fail(new Error(`${file.name} is not a match log. Choose a JSON file exported by Jurata.`));
    }
  };
  return (
    <Part title="Import an existing log">
      <label className="flex flex-wrap items-center gap-4 sm:col-span-2">
        <span className="act has-focus-visible:outline-2">
          Open a log
          <input
            type="file"
            accept=".json,application/json"
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) void read(file);
              event.target.value = ""; // the same file, mended, may be chosen again
            }}
          />
        </span>
        <span className="text-slate">Use this if the match was scored elsewhere; ruleset and division are read from the log.</span>
      </label>
    </Part>
  );
}
