import { useQuery } from "@tanstack/react-query";
import { api, type Match, ok } from "../api/client";
import { named } from "../components/words";

/** The judgements of the scorer that decide the match by themselves. */
export function Deciding({ match }: { match: Match }) {
  const attention = useQuery({
    queryKey: ["attention", match.id, "review"],
    queryFn: () => ok(api.GET("/api/matches/{match}/attention", { params: { path: { match: match.id } } })),
  });
  return attention.data?.range?.deciding.map((row) => (
    <p key={String(row.observation)} className="mb-3 border-l-4 border-amber-deep pl-3">
      {named(row.because, match)}
    </p>
  ));
}
