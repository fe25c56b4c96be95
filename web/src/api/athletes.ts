import { useQuery } from "@tanstack/react-query";
import { api, ok } from "./client";

export function useAthletes() {
  return useQuery({ queryKey: ["athletes"], queryFn: () => ok(api.GET("/api/athletes")) });
}
