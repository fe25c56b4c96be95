import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { api, type Installation, ok } from "../api/client";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";
import { sizeOf } from "../components/words";

const KEY = ["installation"];
const LOOK_AGAIN_MS = 10_000;
const LITTLE_ROOM = 0.1;
const DAY_MS = 24 * 3600 * 1000;
/** A backup that is older is worth a line in red. */
const OLD_BACKUP_MS = 2 * DAY_MS;
const CHECK_WORDS: Record<string, string> = {
  database: "The database does not answer",
  migrations: "The database needs to be migrated",
  cache: "The shared cache does not work",
  clips: "Clips can’t be saved",
  disk: "A disk is full",
  storage: "The storage for clips does not answer",
};

/** For whoever runs the installation: jobs, disk space, backups, failed sign-ins, versions. */
export function OperationsPage() {
  const found = useQuery({
    queryKey: KEY,
    queryFn: () => ok(api.GET("/api/installation")),
    refetchInterval: LOOK_AGAIN_MS,
  });
  return (
    <PaperPage
      title="Installation status"
      aside={
        <Link className="quiet" to="/installation">
          Clubs of this installation
        </Link>
      }
    >
      <Problem error={found.error} />
      {found.data && <Found data={found.data} />}
    </PaperPage>
  );
}

function Found({ data }: { data: Installation }) {
  return (
    <>
      <State data={data} />
      <div className="grid gap-x-12 gap-y-8 md:grid-cols-2">
        <Section title="Background jobs">
          <Work data={data} />
        </Section>
        <Section title="Backups">
          <Backups data={data} />
        </Section>
        <Section title="Disk space">
          <Rooms data={data} />
        </Section>
        <Section title="Failed sign-ins">
          <SignIns data={data} />
        </Section>
      </div>
      <Failed rows={data.failed} />
      <p className="mt-8 text-slate">
        {Object.entries(data.versions)
          .map(([name, version]) => `${name} ${version}`)
          .join(" · ")}
      </p>
    </>
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section>
      <h2 className="mb-3 border-b-2 border-rule pb-1 font-serif text-xl font-semibold">{title}</h2>
      {children}
    </section>
  );
}

/** What needs attention now, in a line each. */
function State({ data }: { data: Installation }) {
  const troubles = Object.entries(data.troubles).map(([name, trouble]) => `${CHECK_WORDS[name] ?? name}: ${trouble}.`);
  const needs = [...troubles, ...backupTroubles(data)];
  if (needs.length === 0) return <p className="mb-6 text-lg">Server, database and disks are in order.</p>;
  return (
    <ul className="mb-6 text-lg font-semibold text-alarm" role="alert">
      {needs.map((one) => (
        <li key={one}>{one}</li>
      ))}
    </ul>
  );
}

function backupTroubles({ backups, backups_to }: Installation): string[] {
  if (!backups_to) return [];
  const good = backups.find((one) => one.good);
  if (!good) return ["No backup has been made yet."];
  const old = Date.now() - Date.parse(good.begun) > OLD_BACKUP_MS;
  return old ? [`The last good backup was made on ${when(good.begun)}.`] : [];
}

function when(iso: string): string {
  return new Date(iso).toLocaleString();
}

function lasting(seconds: number): string {
  if (seconds < 90) return `${Math.round(seconds)} s`;
  return seconds < 5400 ? `${Math.round(seconds / 60)} min` : `${(seconds / 3600).toFixed(1)} h`;
}

function attempts(times: number): string {
  return times === 1 ? "1 attempt" : `${times} attempts`;
}

function Work({ data: { queue, times } }: { data: Installation }) {
  const waited = queue.waiting > 0 ? `, the oldest for ${lasting(queue.oldest_s)}` : "";
  return (
    <>
      <p>
        {queue.working} running, {queue.waiting} waiting{waited}.
      </p>
      {times.length === 0 && <p className="text-slate">No job has finished in the last 24 hours.</p>}
      {times.length > 0 && (
        <table className="mt-3 w-full text-left">
          <thead>
            <tr className="border-b border-rule text-slate">
              <th className="py-1 font-normal">Last 24 hours</th>
              <th className="text-right font-normal">done</th>
              <th className="text-right font-normal">failed</th>
              <th className="text-right font-normal">average</th>
              <th className="text-right font-normal">longest</th>
            </tr>
          </thead>
          <tbody className="tabular-nums">
            {times.map((one) => (
              <tr key={one.kind} className="border-b border-rule">
                <td className="py-1">{one.kind}</td>
                <td className="text-right">{one.done}</td>
                <td className={`text-right ${one.failed > 0 ? "font-semibold text-alarm" : ""}`}>{one.failed}</td>
                <td className="text-right">{lasting(one.mean_s)}</td>
                <td className="text-right">{lasting(one.longest_s)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

function Backups({ data: { backups, backups_to } }: { data: Installation }) {
  if (!backups_to)
    return (
      <p>
        No backups are being made. Set <code>JURATA_BACKUP_TO</code> to a folder or a host, and run <code>manage.py backup</code> every
        night.
      </p>
    );
  return (
    <>
      <p>
        Stored in <code>{backups_to}</code>
      </p>
      <ul className="mt-3">
        {backups.map((one) => (
          <li key={one.archive} className="border-b border-rule py-1">
            {when(one.begun)}
            {one.trouble && <span className="text-alarm">: failed. {one.trouble}</span>}
            {!one.trouble && !one.ended && ": in progress"}
            {one.good && (
              <span className="text-slate">
                : {one.matches} matches, {one.clips} clip files ({sizeOf(one.clip_bytes ?? 0)}),{" "}
                {one.verified ? "verified by restoring it" : "not verified"}
              </span>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

function Rooms({ data: { rooms, database_bytes, clips_in } }: { data: Installation }) {
  return (
    <>
      {clips_in && (
        <p className="mb-3">
          Clips are stored in object storage, in <code>{clips_in}</code>.
        </p>
      )}
      {rooms.map((room) => {
        const free = room.free / Math.max(1, room.total);
        return (
          <div key={room.name} className="mb-3">
            <p>
              {room.name !== "clips" ? "Everything else" : clips_in ? "Working copies of clips" : "Clips"}:{" "}
              <span className={free < LITTLE_ROOM ? "font-semibold text-alarm" : ""}>
                {sizeOf(room.free)} free of {sizeOf(room.total)}
              </span>
            </p>
            <div className="h-2 bg-rule" aria-hidden>
              <div className="h-2 bg-slate" style={{ width: `${100 * (1 - free)}%` }} />
            </div>
          </div>
        );
      })}
      <p>The database uses {sizeOf(database_bytes)}.</p>
    </>
  );
}

function SignIns({ data: { sign_ins } }: { data: Installation }) {
  if (sign_ins.failed === 0) return <p>None in the last 24 hours.</p>;
  return (
    <>
      <p>
        {sign_ins.failed} in the last 24 hours; {sign_ins.shut_out} {sign_ins.shut_out === 1 ? "account is" : "accounts are"} locked out
        right now.
      </p>
      <ul className="mt-3">
        {sign_ins.attempts.map((one) => (
          <li key={`${one.name} ${one.address}`} className="flex justify-between gap-4 border-b border-rule py-1">
            <span>
              {one.name} <span className="text-slate">from {one.address}</span>
            </span>
            <span className="text-slate tabular-nums">
              {attempts(one.tries)}, last on {when(one.last)}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

function Failed({ rows }: { rows: Installation["failed"] }) {
  const again = useDoing(KEY, (failed: string) => ok(api.POST("/api/installation/failed/{failed}", { params: { path: { failed } } })));
  return (
    <div className="mt-8">
      <Section title="Failed jobs">
        <Problem error={again.error} />
        {rows.length === 0 && <p>None in the last 30 days.</p>}
        <ul>
          {rows.map((one) => (
            <li key={one.id} className="flex items-baseline gap-4 border-b border-rule py-1.5">
              <span className="w-44 shrink-0 text-slate">{when(one.created)}</span>
              <span className="flex-1">
                {one.kind} for {one.owner}: {one.trouble} <span className="text-slate">({attempts(one.tries)})</span>
              </span>
              <button type="button" className="quiet" disabled={again.isPending} onClick={() => again.mutate(one.id)}>
                Try again
              </button>
            </li>
          ))}
        </ul>
      </Section>
    </div>
  );
}
