import { useQuery } from "@tanstack/react-query";
import { api, ok } from "../api/client";
import { footage } from "../components/words";
import type { Playhead } from "./playhead";
import { whoIsHere } from "./useLog";

const SAY_EVERY_MS = 4000;

/** Who else is at the desk of a match, as it was last asked for. */
function presentAt(match: string, playhead: Playhead | null) {
  return {
    queryKey: whoIsHere(match),
    queryFn: () =>
      ok(api.PUT("/api/matches/{match}/here", { params: { path: { match } }, body: { t: Math.max(0, playhead?.now() ?? 0) } })),
    staleTime: 0,
    retry: false,
  };
}

/** Says where our playhead is, and who else is at the desk: nothing while we are alone. */
export function AlsoHere({ match, playhead }: { match: string; playhead: Playhead }) {
  const { data } = useQuery({ ...presentAt(match, playhead), refetchInterval: SAY_EVERY_MS });
  if (!data?.length) return null;
  return (
    <ul className="flex min-w-0 gap-2" aria-label="Also at this desk">
      {data.map((one) => (
        <li key={one.name} className="truncate text-fog" title={`${one.name} is at this desk too, at ${footage(one.t)}`}>
          with {one.name}
        </li>
      ))}
    </ul>
  );
}

/** Where the others' playheads are, on the line of the footage. */
export function OtherPlayheads({ match, share }: { match: string; share: (moment: number) => string }) {
  const { data } = useQuery({ ...presentAt(match, null), enabled: false });
  return data?.map((one) => (
    <span
      key={one.name}
      aria-hidden
      title={one.name}
      className="pointer-events-none absolute -top-1 h-6 w-1 -translate-x-1/2 bg-fog"
      style={{ left: share(one.t) }}
    />
  ));
}
