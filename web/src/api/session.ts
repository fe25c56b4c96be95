import { type QueryClient, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { signOut } from "./account";
import { api, ok } from "./client";

/** Who is signed in. `lookEveryMs`: asked again so often, for what others do, such as new notices. */
export function useSession(lookEveryMs: number | false = false) {
  return useQuery({ queryKey: ["session"], queryFn: () => ok(api.GET("/api/session")), refetchInterval: lookEveryMs });
}

/** The club in which somebody works now. */
export function useClub() {
  return useSession().data?.clubs.find((one) => one.chosen);
}

export type Right = NonNullable<ReturnType<typeof useClub>>["may"][number];

/** Whether the user has a right in the club where they work. */
export function useMay(right: Right): boolean {
  return useClub()?.may.includes(right) ?? false;
}

const NOBODY = { id: 0, name: "" };

/** The account that is signed in, the same object as long as it is the same one. */
export function useOwner(): { id: number; name: string } {
  const { user, name } = useSession().data ?? {};
  return useMemo(() => (user && name ? { id: user, name } : NOBODY), [user, name]);
}

/** Somebody else, another club, or nobody: what was fetched before is forgotten. */
export async function startOver(queries: QueryClient): Promise<void> {
  queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
  await queries.invalidateQueries({ queryKey: ["session"] });
}

export function useSignOut() {
  const queries = useQueryClient();
  return useMutation({ mutationFn: signOut, onSuccess: () => startOver(queries) });
}

export function useChooseClub() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (club: number) => ok(api.PUT("/api/club/chosen", { body: { club } })),
    onSuccess: () => startOver(queries),
  });
}
