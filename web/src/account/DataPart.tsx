import { useQuery } from "@tanstack/react-query";
import { api, ok, type OwnData } from "../api/client";
import { AskAgain } from "../components/AskAgain";
import { Confirm } from "../components/Confirm";
import { Exports, whileUnderWay, WillBeDeleted } from "../components/Exports";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";
import { Part } from "./parts";

const KEY = ["own-data"];

/** All of one’s data: to export, and to have deleted. */
export function DataPart() {
  const known = useQuery({
    queryKey: KEY,
    queryFn: () => ok(api.GET("/api/own-data")),
    refetchInterval: (query) => whileUnderWay(query.state.data?.exports),
  });
  const ask = useDoing(KEY, () => ok(api.POST("/api/own-data/exports")));
  return (
    <Part title="Your data">
      <Problem error={known.error} />
      <p className="text-slate">
        A zip with everything kept about you, and about your children if you are a guardian, in formats that other programs read.
      </p>
      <Exports exports={known.data?.exports ?? []} shown={[KEY]} />
      <button type="button" className="act self-start" disabled={ask.isPending} onClick={() => ask.mutate(undefined)}>
        Export everything
      </button>
      <AskAgain doing={ask} />
      {known.data && <AccountDeletion deletion={known.data.deletion} />}
      {known.data?.athletes.map((one) => (
        <AthleteDeletion key={one.id} athlete={one} />
      ))}
    </Part>
  );
}

function AccountDeletion({ deletion }: { deletion: OwnData["deletion"] }) {
  const ask = useDoing(KEY, () => ok(api.POST("/api/own-data/deletion")));
  const stop = useDoing(KEY, () => ok(api.DELETE("/api/own-data/deletion")));
  return (
    <div className="mt-2 flex flex-col gap-3">
      {deletion ? (
        <WillBeDeleted what="Your account" deletion={deletion} stop={() => stop.mutate(undefined)} busy={stop.isPending} />
      ) : (
        <p>
          <Confirm
            trigger="Delete your account"
            title="Delete your account?"
            act="Delete it in 30 days"
            run={() => ask.mutate(undefined)}
            error={null}
          >
            It works as before for 30 days, in which you can change your mind. Then it is gone, with its sign-in, settings, notices and quiz
            answers. What you scored and wrote for a club stays with the club, without your name.
          </Confirm>
        </p>
      )}
      <AskAgain doing={ask} />
      <Problem error={stop.error} />
    </div>
  );
}

/** For an athlete, and a guardian of one: everything that the club keeps about them. */
function AthleteDeletion({ athlete }: { athlete: OwnData["athletes"][number] }) {
  const path = { params: { path: { athlete: athlete.id } } };
  const ask = useDoing(KEY, () => ok(api.POST("/api/own/athletes/{athlete}/deletion", path)));
  const stop = useDoing(KEY, () => ok(api.DELETE("/api/own/athletes/{athlete}/deletion", path)));
  const what = `Everything about ${athlete.name} at ${athlete.club}`;
  return (
    <div className="flex flex-col gap-3">
      {athlete.deletion ? (
        <WillBeDeleted what={what} deletion={athlete.deletion} stop={() => stop.mutate(undefined)} busy={stop.isPending} />
      ) : (
        <p>
          <Confirm
            trigger={`Delete everything about ${athlete.name}`}
            title={`Delete everything about ${athlete.name}?`}
            act="Delete it in 30 days"
            run={() => ask.mutate(undefined)}
            error={null}
          >
            {athlete.club} then has no matches, clips, reports or notes about {athlete.name} any more. A clip that shows another athlete of
            the club too is kept for them. You can stop this within 30 days.
          </Confirm>
        </p>
      )}
      <AskAgain doing={ask} />
      <Problem error={stop.error} />
    </div>
  );
}
