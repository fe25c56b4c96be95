import { type QueryClient, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ok, type Session } from "./client";

export function useSession() {
  return useQuery({ queryKey: ["session"], queryFn: () => ok(api.GET("/api/session")) });
}

/** Another coach, or nobody: what was fetched for the last one is forgotten. */
function switchTo(queries: QueryClient, name: string | null): void {
  queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
  queries.setQueryData<Session>(["session"], (now) => ({ demo: null, ...now, name }));
}

export function useSignIn() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: { username: string; password: string }) => ok(api.POST("/api/session", { body })),
    onSuccess: (session) => {
      switchTo(queries, session.name);
    },
  });
}

export function useSignOut() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => ok(api.DELETE("/api/session")),
    onSuccess: () => {
      switchTo(queries, null);
    },
  });
}
