import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ok } from "../api/client";

export function useSession() {
  return useQuery({ queryKey: ["session"], queryFn: () => ok(api.GET("/api/session")) });
}

export function useSignIn() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: { username: string; password: string }) => ok(api.POST("/api/session", { body })),
    onSuccess: (session) => {
      queries.clear();
      queries.setQueryData(["session"], session);
    },
  });
}

export function useSignOut() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => ok(api.DELETE("/api/session")),
    onSuccess: () => {
      queries.clear();
      queries.setQueryData(["session"], { name: null });
    },
  });
}
