import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ok, type Preferences } from "../api/client";
import type { OwnKeys } from "./keys";

const NONE: OwnKeys = {};

/** The keys a user has changed, kept with the account; until they are known none can be changed. */
export function useKeys(): { own: OwnKeys; change: ((own: OwnKeys) => void) | null } {
  const queries = useQueryClient();
  const found = useQuery({
    queryKey: ["preferences"],
    queryFn: () => ok(api.GET("/api/preferences")),
    staleTime: Infinity,
  });
  const save = useMutation({
    mutationFn: (keys: OwnKeys) => ok(api.PATCH("/api/preferences", { body: { keys } })),
    onMutate: (keys) => queries.setQueryData<Preferences>(["preferences"], (now) => now && { ...now, keys }),
  });
  return { own: found.data?.keys ?? NONE, change: found.data ? save.mutate : null };
}
