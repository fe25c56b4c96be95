import { useQuery } from "@tanstack/react-query";
import { api, ok } from "../api/client";
import words from "../api/words.json";

/** The causes that the coach chooses from; the usual ones until the own list has come. */
export function useCauses(): string[] {
  const found = useQuery({ queryKey: ["causes"], queryFn: () => ok(api.GET("/api/causes")), staleTime: Infinity });
  return found.data?.causes ?? words.causes;
}
