import { type QueryKey, useMutation, useQueryClient } from "@tanstack/react-query";

/** Something that is done, after which one query is asked again. */
export function useDoing<T>(queryKey: QueryKey, act: (said: T) => Promise<unknown>) {
  const queries = useQueryClient();
  return useMutation({ mutationFn: act, onSuccess: () => queries.invalidateQueries({ queryKey }) });
}
