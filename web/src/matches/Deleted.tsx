import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type DeletedMatch, ok } from "../api/client";
import { Confirm } from "../components/Confirm";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { dayOf } from "../components/words";

/** The matches that were deleted, to be restored for some days or removed at once. */
export function Deleted() {
  const deleted = useQuery({ queryKey: ["deleted-matches"], queryFn: () => ok(api.GET("/api/deleted-matches")), staleTime: 0 });
  return (
    <PaperPage title="Deleted matches">
      <Problem error={deleted.error} />
      {deleted.isPending && <p className="text-slate">Loading…</p>}
      {deleted.data?.length === 0 && <p>No match was deleted in the last 30 days.</p>}
      <ul>
        {deleted.data?.map((match) => (
          <Row key={match.id} match={match} />
        ))}
      </ul>
    </PaperPage>
  );
}

function Row({ match }: { match: DeletedMatch }) {
  const queries = useQueryClient();
  const shown = () =>
    Promise.all(["deleted-matches", "matches", "waiting", "unused-clips"].map((name) => queries.invalidateQueries({ queryKey: [name] })));
  const path = { params: { path: { match: match.id } } };
  const restore = useMutation({ mutationFn: () => ok(api.POST("/api/deleted-matches/{match}", path)), onSuccess: shown });
  const remove = useMutation({ mutationFn: () => ok(api.DELETE("/api/deleted-matches/{match}", path)), onSuccess: shown });
  return (
    <li className="flex flex-wrap items-baseline gap-x-5 gap-y-2 border-t-2 border-rule py-4">
      <span className="min-w-0 flex-1">
        <b>
          {match.athlete_name} against {match.opponent}
        </b>
        <span className="block text-slate">
          {[match.event, dayOf(match.date), `can be restored until ${dayOf(match.until)}`].filter(Boolean).join(" · ")}
        </span>
        <Problem error={restore.error} />
      </span>
      <button type="button" className="act" onClick={() => restore.mutate()}>
        Restore
      </button>
      <Confirm trigger="Delete for good" title="Delete it for good?" act="Delete for good" run={() => remove.mutate()} error={remove.error}>
        {match.athlete_name} against {match.opponent}, with all that was logged. This can't be undone.
      </Confirm>
    </li>
  );
}
