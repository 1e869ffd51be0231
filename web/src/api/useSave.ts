import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import type { Key } from "./keys";
import { watch } from "./outcome";
import { Problem } from "./problem";

// useSave sends changes to the server. What is sent returns what the server answered, null when it was refused: then
// problem says why, until something else is saved. What may have changed by it is asked for again, whichever way it
// ended; without stale, that is everything.
export function useSave(stale?: readonly Key[]) {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<Problem | null>(null);
  const { mutateAsync, isPending } = useMutation({
    networkMode: "always", // the server is in the house: it is tried, whatever the browser thinks of the line
    mutationFn: (call: () => Promise<unknown>) => call(),
    onSuccess: () => setProblem(null),
    onError: (e) => setProblem(e instanceof Problem ? e : null),
    onSettled: () =>
      stale
        ? Promise.all(stale.map((queryKey) => queries.invalidateQueries({ queryKey })))
        : queries.invalidateQueries(),
  });
  const save = useCallback(
    async <T>(call: () => Promise<T>): Promise<T | null> => {
      try {
        // The field that began it is told how it ended.
        return (await watch(mutateAsync(call as () => Promise<unknown>))) as T;
      } catch (e) {
        if (e instanceof Problem) return null;
        throw e;
      }
    },
    [mutateAsync],
  );
  return { save, problem, setProblem, busy: isPending };
}
