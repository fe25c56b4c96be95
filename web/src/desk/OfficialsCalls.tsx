import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ok } from "../api/client";
import { Problem } from "../components/Problem";
import { take } from "./useLog";

/** Reads the officials' calls from the scoreboard table, or from a file it has written. */
export function OfficialsCalls({ match }: { match: string }) {
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const table = useQuery({
    queryKey: ["table"],
    queryFn: () => ok(api.GET("/api/table")),
    enabled: open,
    retry: false,
  });
  const read = useMutation({
    mutationFn: (body: { match: string } | { lines: string }) =>
      ok(api.POST("/api/matches/{match}/calls", { params: { path: { match } }, body })),
    onSuccess: (change) => take(queries, match, change),
  });
  return (
    <details className="mt-2" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="text-fog">Import the officials&rsquo; calls</summary>
      <div className="flex flex-col gap-2 py-1">
        {table.data && table.data.matches.length > 0 && (
          <FromTable matches={table.data.matches} busy={read.isPending} read={(match) => read.mutate({ match })} />
        )}
        <label className="has-focus-visible:outline-2">
          <span className="quiet">From a file</span>
          <input
            type="file"
            accept=".jsonl,.json,.txt"
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (file) void file.text().then((lines) => read.mutate({ lines }));
            }}
          />
        </label>
        {read.isSuccess && (
          <p role="status">The calls are on the timeline. Pick &ldquo;officials&rdquo; in the list above it to see only the differences.</p>
        )}
        <Problem dark error={read.error ?? table.error} />
      </div>
    </details>
  );
}

/** The matches that the scoreboard table knows, to read one of them. */
function FromTable({ matches, busy, read }: { matches: string[]; busy: boolean; read: (match: string) => void }) {
  const [name, setName] = useState("");
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        read(name);
      }}
    >
      <label className="flex min-w-0 items-center gap-2">
        <span className="shrink-0 text-fog">From the scoreboard table</span>
        <select className="desk-field min-w-0" required value={name} onChange={(event) => setName(event.target.value)}>
          <option value="">choose match…</option>
          {matches.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      </label>
      <button type="submit" className="quiet" disabled={busy}>
        Read
      </button>
    </form>
  );
}
