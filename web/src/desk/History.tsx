import { useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { api, type Change, type Observation, ok } from "../api/client";
import { describe } from "../components/describe";
import { footage } from "../components/words";

const TIME = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit", second: "2-digit" });

function said(seen: Observation | null): string {
  return seen ? `${describe(seen).text} at ${footage(seen.t)}${seen.sure === false ? ", unsure" : ""}` : "nothing";
}

/** Who changed what, newest first; any state can be put back. */
export function History({ match, revision, open, setOpen, restore }: {
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
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-night/70" />
        <Dialog.Content aria-describedby={undefined} className="paper fixed z-20 top-0 right-0 bottom-0 w-[min(620px,96vw)] overflow-y-auto border-l-4 border-amber-deep bg-paper px-6 py-5 text-ink">
          <div className="flex items-baseline gap-5 pb-2">
            <Dialog.Title className="text-2xl font-semibold">History</Dialog.Title>
            <Dialog.Close className="act ml-auto">Back to the desk</Dialog.Close>
          </div>
          {changes.data?.length === 0 && <p className="text-slate">Nothing was changed yet since the match was set up.</p>}
          <ol>
            {changes.data?.map((change) => <Step key={change.revision} change={change} restore={restore} />)}
          </ol>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Step({ change, restore }: { change: Change; restore: (key: string, body: Observation | null) => void }) {
  const { before, after } = change;
  const what = before === null ? `Logged ${said(after)}` : after === null ? `Deleted ${said(before)}` : `${said(before)} became ${said(after)}`;
  return (
    <li className="border-b border-rule py-1.5">
      <p>{what}</p>
      <p className="flex gap-4 text-[15px] text-slate">
        <span>{TIME.format(new Date(change.at))}, {change.who}</span>
        <button type="button" className="quiet ml-auto" onClick={() => restore(change.key, before)}>{before === null ? "Take it out" : "Put it back"}</button>
      </p>
    </li>
  );
}
