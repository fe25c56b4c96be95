import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, ok } from "./client";

/** Begin the practice, or go on with it; `again`: from the beginning. */
export function usePractice() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (again: boolean) => ok(api.POST("/api/practice", { body: { again } })),
    onSuccess: async (match) => {
      await queries.invalidateQueries({ queryKey: ["clips"] });
      void navigate(`/matches/${match.id}`);
    },
  });
}
