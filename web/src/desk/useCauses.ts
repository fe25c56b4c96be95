import { useMemo } from "react";
import type { Choices } from "./answers";
import { useQuery } from "@tanstack/react-query";
import { api, ok } from "../api/client";
import words from "../api/words.json";

/** The causes that the coach chooses from; the usual ones until the own list has come. */
export function useCauses(): string[] {
  const found = useQuery({ queryKey: ["causes"], queryFn: () => ok(api.GET("/api/causes")), staleTime: Infinity });
  return found.data?.causes ?? words.causes;
}

/** What a digit chooses from at the desk. */
export function useChoices(attire: Choices["attire"]): Choices {
  const causes = useCauses();
  return useMemo(() => ({ causes, attire }), [causes, attire]);
}
