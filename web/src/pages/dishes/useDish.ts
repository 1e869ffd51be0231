import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { api, Problem, settle, type Schemas } from "../../api/client";

type Dish = Schemas["Dish"];

// keepAnswer puts what the server answered in the place of what is shown, at once: the
// next change is made from it, and not from what is still being fetched again.
export function keepAnswer(queries: QueryClient, answer: Schemas["DishView"]) {
  queries.setQueriesData<Schemas["DishView"]>({ queryKey: ["dish", answer.dish.id] }, (old) =>
    old ? { ...old, dish: answer.dish, version: answer.version } : old,
  );
}

// useDishChanges saves a changed dish at once, keeps what is needed to take it back,
// and shows the server's faults where a change was refused.
export function useDishChanges(view: Schemas["DishView"]) {
  const queries = useQueryClient();
  const [undo, setUndo] = useState<number[]>([]);
  const [problem, setProblem] = useState<Problem | null>(null);
  const { id } = view.dish;
  const took = useCallback(
    async (answer: Schemas["DishView"]) => {
      setProblem(null);
      keepAnswer(queries, answer);
      await Promise.all(
        ["dish", "plate", "plan", "dishes"].map((k) => queries.invalidateQueries({ queryKey: [k] })),
      );
    },
    [queries],
  );
  const save = useCallback(
    async (dish: Dish): Promise<boolean> => {
      try {
        const answer = await settle(
          api.PUT("/api/dishes/{id}", { params: { path: { id } }, body: { version: view.version, dish } }),
        );
        setUndo((u) => [...u, view.version]);
        await took(answer);
        return true;
      } catch (e) {
        if (!(e instanceof Problem)) throw e;
        setProblem(e);
        if (e.status === 409) await queries.invalidateQueries({ queryKey: ["dish"] });
        return false;
      }
    },
    [id, queries, took, view.version],
  );
  const arrange = useCallback(
    async (edit: Omit<Schemas["SequenceEdit"], "version">) => {
      try {
        const answer = await settle(
          api.POST("/api/dishes/{id}/sequence", {
            params: { path: { id } },
            body: { ...edit, version: view.version },
          }),
        );
        setUndo((u) => [...u, view.version]);
        await took(answer);
      } catch (e) {
        if (!(e instanceof Problem)) throw e;
        setProblem(e);
      }
    },
    [id, took, view.version],
  );
  const takeBack = useCallback(async () => {
    const to = undo[undo.length - 1];
    if (to === undefined) return;
    try {
      const answer = await settle(
        api.POST("/api/dishes/{id}/restore", {
          params: { path: { id } },
          body: { version: view.version, to },
        }),
      );
      setUndo((u) => u.slice(0, -1));
      await took(answer);
    } catch (e) {
      if (!(e instanceof Problem)) throw e;
      setProblem(e);
    }
  }, [id, took, undo, view.version]);
  return { save, arrange, takeBack, canUndo: undo.length > 0, problem, setProblem };
}
