import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ChangeEvent, useState } from "react";
import { Link } from "react-router";
import { useAthletes } from "../api/athletes";
import { api, csrfToken, type Import, ok, refusal } from "../api/client";
import { JobWork, underWay } from "../components/JobWork";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";
import { dayOf, percent } from "../components/words";
import { Title } from "./parts";

const KEY = ["imports"];
const LOOK_EVERY_MS = 1000;
const EXAMPLE = `{"athlete": "Dara Finch", "opponent": "Ulla Vexley", "event": "Thaw Cup",
 "date": "2026-02-14", "log": {"format": "jurata-match/3", …}}`;

/** What is sent: the files, and their paths where they come from a folder. */
function bodyOf(files: File[], athlete: string, add: boolean): FormData {
  const body = new FormData();
  for (const file of files) body.append("files", file, file.name);
  body.append("names", files.map((file) => file.webkitRelativePath || file.name).join("\n"));
  if (athlete) body.append("athlete", athlete);
  body.append("add_athletes", String(add));
  return body;
}

async function send(body: FormData): Promise<void> {
  const answer = await fetch("/api/imports", { method: "POST", body, headers: { "X-CSRFToken": csrfToken() } });
  if (!answer.ok) throw refusal(answer.status, await answer.json().catch(() => null));
}

/** Taking many matches in at once: what was wrong with each, and what came of it. */
export function ImportPage() {
  const queries = useQueryClient();
  const athletes = useAthletes();
  const [athlete, setAthlete] = useState("");
  const [add, setAdd] = useState(false);
  const imports = useQuery({
    queryKey: KEY,
    queryFn: () => ok(api.GET("/api/imports")),
    refetchInterval: (query) => (query.state.data?.some((one) => underWay(one.job)) ? LOOK_EVERY_MS : false),
  });
  const take = useMutation({
    mutationFn: (files: File[]) => send(bodyOf(files, athlete, add)),
    onSettled: () => queries.invalidateQueries({ queryKey: KEY }),
  });
  const chosen = (event: ChangeEvent<HTMLInputElement>) => {
    const files = [...(event.target.files ?? [])];
    event.target.value = "";
    if (files.length) take.mutate(files);
  };
  return (
    <PaperPage title="Import matches">
      <div className="grid gap-x-12 gap-y-8 md:grid-cols-[1fr_340px]">
        <div>
          <p className="pb-4">
            Choose match logs (.json), a file with one match a line (.jsonl), a .zip, or a folder. The export of a club can be imported as
            it is. The same match imported twice is taken in once.
          </p>
          <Example />
          <div className="flex flex-wrap gap-4">
            <FileButton name="Choose files" onChange={chosen} busy={take.isPending} />
            <FileButton name="Choose a folder" folder onChange={chosen} busy={take.isPending} />
          </div>
          {take.isPending && <p className="pt-3 text-slate">Uploading…</p>}
          <Problem error={take.error ?? imports.error} />
          <Imports imports={imports.data ?? []} />
        </div>
        <div className="flex flex-col gap-5">
          <label>
            <span className="mb-1 block font-semibold">Logs that name no athlete are of</span>
            <select className="field" value={athlete} onChange={(event) => setAthlete(event.target.value)}>
              <option value="">no one: leave them out</option>
              {athletes.data?.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-baseline gap-3">
            <input type="checkbox" className="accent-amber-deep" checked={add} onChange={(event) => setAdd(event.target.checked)} />
            <span>Add athletes who are not in the club, with the belt and age of their log</span>
          </label>
        </div>
      </div>
    </PaperPage>
  );
}

function Example() {
  return (
    <details className="pb-4">
      <summary className="cursor-pointer text-slate">What a line looks like</summary>
      <pre className="overflow-x-auto bg-sheet p-3 text-[14px]">{EXAMPLE}</pre>
      <p className="pt-1 text-slate">
        Only the log is needed; a file with a log alone is read too. The log is the “Log (JSON)” that a review offers under Report.
      </p>
    </details>
  );
}

function FileButton({
  name,
  folder = false,
  busy,
  onChange,
}: {
  name: string;
  folder?: boolean;
  busy: boolean;
  onChange: (event: ChangeEvent<HTMLInputElement>) => void;
}) {
  const way = folder ? { webkitdirectory: "" } : { accept: ".json,.jsonl,.zip" };
  return (
    <label className="act has-focus-visible:outline-2 has-focus-visible:outline-amber-deep cursor-pointer">
      {name}
      <input type="file" multiple className="sr-only" disabled={busy} onChange={onChange} {...way} />
    </label>
  );
}

function Imports({ imports }: { imports: Import[] }) {
  const forget = useDoing(KEY, (taken: string) => ok(api.DELETE("/api/imports/{taken}", { params: { path: { taken } } })));
  if (!imports.length) return null;
  return (
    <section className="pt-8">
      <Title>What was imported</Title>
      <Problem error={forget.error} />
      <ul>
        {imports.map((one) => (
          <li key={one.id} className="border-b border-rule py-3">
            <div className="flex flex-wrap items-center gap-x-4">
              <b>{one.name}</b>
              <span className="text-slate">{dayOf(one.created)}</span>
              {one.job && <JobWork job={one.job} doing="Import" said={saidOf(one)} shown={[KEY]} />}
              <button type="button" className="quiet ml-auto" onClick={() => forget.mutate(one.id)}>
                Remove from the list
              </button>
            </div>
            <Came one={one} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function saidOf({ job }: Import): string {
  if (job?.state === "failed") return job.trouble;
  if (job?.state === "cancelled") return "cancelled; what was taken in stays";
  return job?.state === "waiting" ? "waiting for the worker" : `being taken in, ${percent(job?.progress ?? 0)}`;
}

/** What became of an import, and what was wrong with each match that was left out. */
function Came({ one }: { one: Import }) {
  return (
    <>
      <p>
        {one.made === 1 ? "1 match taken in" : `${one.made} matches taken in`}
        {one.known > 0 && `, ${one.known} there already`}
        {one.refused > 0 && `, ${one.refused} left out`}. {one.added.length > 0 && `Added athletes: ${one.added.join(", ")}. `}
        {one.made > 0 && (
          <Link className="quiet" to="/season">
            See the season
          </Link>
        )}
      </p>
      {one.faults.length > 0 && (
        <details>
          <summary className="cursor-pointer text-slate">What was wrong with the matches that were left out</summary>
          <ul className="max-h-80 overflow-auto">
            {one.faults.map((fault) => (
              <li key={fault.where} className="py-1">
                <b>{fault.where}</b>
                {fault.faults.map((text) => (
                  <span key={text} className="block">
                    {text}
                  </span>
                ))}
              </li>
            ))}
          </ul>
          {one.refused > one.faults.length && <p>And {one.refused - one.faults.length} more.</p>}
        </details>
      )}
    </>
  );
}
