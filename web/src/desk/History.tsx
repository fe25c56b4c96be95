import { useQuery } from "@tanstack/react-query";
import { api, type Change, type Observation, ok } from "../api/client";
import { describe } from "../components/describe";
import { footage } from "../components/words";
import { Sheet } from "../components/Sheet";

const TIME = new Intl.DateTimeFormat(undefined, {
  day: "numeric",
  month: "short",
  hour: "2-digit",
  minute: "2-digit",
  second: "2-digit",
});

function said(seen: Observation | null): string {
  return seen ? `${describe(seen).text} at ${footage(seen.t)}${seen.sure === false ? ", unsure" : ""}` : "nothing";
}

/** Who changed what, newest first; any state can be put back. */
export function History({
  match,
  revision,
  open,
  setOpen,
  restore,
}: {
  match: string;
  revision: number;
  open: boolean;
  setOpen: (open: boolean) => void;
  restore: (key: string, body: Observation | null) => void;
}) {
  const changes = useQuery({
    queryKey: ["history", match, revision],
    queryFn: () => ok(api.GET("/api/matches/{match}/history", { params: { path: { match } } })),
    enabled: open,
    placeholderData: (before) => before,
  });
  return (
    <Sheet title="History" width="middle" open={open} setOpen={setOpen}>
      {changes.data?.length === 0 && <p className="text-slate">No changes since the match was created.</p>}
      <ol>
        {changes.data?.map((change) => (
          <Step key={change.revision} change={change} restore={restore} />
        ))}
      </ol>
    </Sheet>
  );
}

function Step({ change, restore }: { change: Change; restore: (key: string, body: Observation | null) => void }) {
  const { before, after } = change;
  const what =
    before === null ? `Logged ${said(after)}` : after === null ? `Deleted ${said(before)}` : `${said(before)} became ${said(after)}`;
  return (
    <li className="border-b border-rule py-1.5">
      <p>{what}</p>
      <p className="flex gap-4 text-[15px] text-slate">
        <span>
          {TIME.format(new Date(change.at))}, {change.who}
        </span>
        <button type="button" className="quiet ml-auto" onClick={() => restore(change.key, before)}>
          {before === null ? "Undo this" : "Restore"}
        </button>
      </p>
    </li>
  );
}
