import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { underWay } from "../components/JobWork";
import { api, type Found, type KindSetting, ok, type Remark, type Review, type ReviewError } from "../api/client";

const LOOK_EVERY_MS = 1000;

export interface Chain {
  root: ReviewError;
  /** The errors that came from it, in order of time. */
  later: ReviewError[];
  otherwise: Review["chains"][number]["otherwise"];
  /** What all of it cost, in a sentence; empty where that is nothing. */
  cost: string;
  /** Whether the coach has accepted it with all its links. */
  accepted: boolean;
  /** The keys of those of its errors that the report shows. */
  inReport: string[];
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

/** What changes with every word that the coach says of an error. */
function useTold(id: string) {
  const queries = useQueryClient();
  return (found: Found) => {
    queries.setQueryData<Review>(["review", id], (before) => before && { ...before, ...found });
    return Promise.all([
      queries.invalidateQueries({ queryKey: ["prospects", id] }),
      queries.invalidateQueries({ queryKey: ["report", id] }),
    ]);
  };
}

/** Say something of an error, or take back what was said. */
export function useRemark(id: string) {
  return useMutation({
    mutationFn: ({ key, said }: { key: string; said: Remark | null }) => {
      const params = { path: { match: id, key } };
      const address = "/api/matches/{match}/errors/{key}";
      return said === null ? ok(api.DELETE(address, { params })) : ok(api.PUT(address, { params, body: said }));
    },
    onSuccess: useTold(id),
  });
}

/** Accept a chain with all its links, or take that back. */
export function useDecideChain(id: string) {
  return useMutation({
    mutationFn: ({ root, accepted }: { root: string; accepted: boolean }) =>
      ok(api.PUT("/api/matches/{match}/chains/{key}", { params: { path: { match: id, key: root } }, body: { accepted } })),
    onSuccess: useTold(id),
  });
}

/** Have a kind of error looked for in another way, in all matches. */
export function useSetKind() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ kind, setting }: { kind: string; setting: KindSetting }) =>
      ok(api.PUT("/api/kinds/{kind}", { params: { path: { kind } }, body: setting })),
    onSuccess: (kinds) => {
      queries.setQueryData(["kinds"], kinds);
      return Promise.all(["review", "report", "prospects"].map((name) => queries.invalidateQueries({ queryKey: [name] })));
    },
  });
}

export function useNotes(id: string) {
  return useQuery({
    queryKey: ["notes", id],
    queryFn: () => ok(api.GET("/api/matches/{match}/notes", { params: { path: { match: id } } })),
  });
}

export function useLetter(id: string) {
  return useQuery({
    queryKey: ["letter", id],
    queryFn: () => ok(api.GET("/api/matches/{match}/letter", { params: { path: { match: id } } })),
  });
}

export function useCuts(id: string) {
  return useQuery({
    queryKey: ["cuts", id],
    queryFn: () => ok(api.GET("/api/matches/{match}/cuts", { params: { path: { match: id } } })),
    refetchInterval: (query) => (query.state.data?.some((cut) => underWay(cut.job)) ? LOOK_EVERY_MS : false),
  });
}

/** The chains with their errors, what mattered most first. */
export function chainsOf(review: Review): Chain[] {
  const errors = new Map(review.found.map((error) => [error.key, error]));
  return review.chains.flatMap(({ members, otherwise, cost, accepted, in_report }) => {
    const [root, ...later] = members.flatMap((key) => errors.get(key) ?? []);
    return root ? [{ root, later, otherwise, cost, accepted, inReport: in_report }] : [];
  });
}
