import { type QueryClient, useQuery } from "@tanstack/react-query";
import { api, ok } from "./client";

export function useAthletes() {
  return useQuery({ queryKey: ["athletes"], queryFn: () => ok(api.GET("/api/athletes")) });
}

/** Have the athletes fetched again after a change; an answer that is still on its way may be from before it. */
export async function athletesChanged(queries: QueryClient): Promise<void> {
  await queries.cancelQueries({ queryKey: ["athletes"] });
  await queries.invalidateQueries({ queryKey: ["athletes"] });
}
