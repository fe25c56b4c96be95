import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { underWay } from "../components/JobWork";
import { api, ok, type Remark, type Review, type ReviewError } from "../api/client";

const LOOK_EVERY_MS = 1000;

export interface Chain {
  root: ReviewError;
  /** The errors that came from it, in order of time. */
  later: ReviewError[];
  otherwise: Review["chains"][number]["otherwise"];
  cost: string;
  /** How much of the chance to win all its links swung away together, from 0 to 1; null until it is known. */
  lost: number | null;
}

export function useReview(id: string) {
  return useQuery({
    queryKey: ["review", id],
    queryFn: () => ok(api.GET("/api/matches/{match}/review", { params: { path: { match: id } } })),
    staleTime: 0,
  });
}

export function useProspects(id: string) {
  return useQuery({
    queryKey: ["prospects", id],
    queryFn: () => ok(api.GET("/api/matches/{match}/prospects", { params: { path: { match: id } } })),
    staleTime: 0,
    placeholderData: (before) => before,
  });
}

/** How sure the chance is. It takes the server some seconds, so it is asked for once the chance is there. */
export function useSpread(id: string, ready: boolean) {
  return useQuery({
    queryKey: ["prospects", id, "spread"],
    queryFn: () => ok(api.GET("/api/matches/{match}/prospects/spread", { params: { path: { match: id } } })),
    enabled: ready,
    staleTime: 60_000,
  });
}

/** Say something of an error, or take back what was said. */
export function useRemark(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ key, said }: { key: string; said: Remark | null }) => {
      const params = { path: { match: id, key } };
      const address = "/api/matches/{match}/errors/{key}";
      return said === null ? ok(api.DELETE(address, { params })) : ok(api.PUT(address, { params, body: said }));
    },
    onSuccess: (found) => {
      queries.setQueryData<Review>(["review", id], (before) => before && { ...before, ...found });
      return Promise.all([
        queries.invalidateQueries({ queryKey: ["prospects", id], exact: true }),
        queries.invalidateQueries({ queryKey: ["report", id] }),
      ]);
    },
  });
}

export function useNotes(id: string) {
  return useQuery({
    queryKey: ["notes", id],
    queryFn: () => ok(api.GET("/api/matches/{match}/notes", { params: { path: { match: id } } })),
  });
}

export function useCuts(id: string) {
  return useQuery({
    queryKey: ["cuts", id],
    queryFn: () => ok(api.GET("/api/matches/{match}/cuts", { params: { path: { match: id } } })),
    refetchInterval: (query) => (query.state.data?.some((cut) => underWay(cut.job)) ? LOOK_EVERY_MS : false),
  });
}

/** The chains with what would have changed most at the root first, once that is known. */
export function chainsOf(review: Review, prospects: { order: string[]; swings: Record<string, { lost: number }> } | undefined): Chain[] {
  const errors = new Map(review.found.map((error) => [error.key, error]));
  const place = (first: string) => {
    const at = prospects?.order.indexOf(first) ?? -1;
    return at < 0 ? Infinity : at;
  };
  return review.chains
    .flatMap((chain) => {
      const [root, ...later] = chain.members.flatMap((key) => errors.get(key) ?? []);
      if (!root) return [];
      const lost = prospects
        ? Math.min(
            1,
            chain.members.reduce((sum, key) => sum + (prospects.swings[key]?.lost ?? 0), 0),
          )
        : null;
      return [{ root, later, otherwise: chain.otherwise, cost: chain.cost, lost }];
    })
    .sort((one, other) => place(one.root.key) - place(other.root.key) || one.root.since - other.root.since);
}
