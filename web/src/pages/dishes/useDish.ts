import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { savesOf, type Held, type Saves } from "../../api/saves";
import { useSave } from "../../api/useSave";

type Dish = Schemas["Dish"];

const stale = [keys.dish(), keys.plate(), keys.plan(), keys.dishes, keys.day, keys.history()];

// keepAnswer puts what the server answered in the place of what is shown, at once: the
// next change is made from it, and not from what is still being fetched again.
export function keepAnswer(queries: QueryClient, answer: Schemas["DishView"]) {
  queries.setQueriesData<Schemas["DishView"]>({ queryKey: keys.dish(answer.dish.id) }, (old) =>
    old ? { ...old, dish: answer.dish, version: answer.version } : old,
  );
}

// useDishChanges saves a changed dish at once, keeps what is needed to take it back,
// and shows the server's faults where a change was refused.
export function useDishChanges(view: Schemas["DishView"]) {
  const queries = useQueryClient();
  const [undo, setUndo] = useState<number[]>([]);
  const { save: send, problem } = useSave(stale);
  const { id } = view.dish;
  // run makes a change in its turn and keeps what the server answered, at once.
  const run = useCallback(
    async (
      turn: (
        saves: Saves<Dish>,
        shown: Held<Dish>,
        told: (from: number, answer: Schemas["DishView"]) => Held<Dish>,
      ) => Promise<unknown>,
      forward: boolean,
    ): Promise<boolean> =>
      (await send(() =>
        turn(savesOf<Dish>(`dish/${id}`), { version: view.version, value: view.dish }, (from, answer) => {
          keepAnswer(queries, answer);
          setUndo((u) => (forward ? [...u, from] : u.slice(0, -1)));
          return { version: answer.version, value: answer.dish };
        }),
      )) !== null,
    [id, queries, send, view],
  );
  const save = useCallback(
    (dish: Dish) =>
      run(
        (saves, shown, told) =>
          saves.save(shown, dish, async (version, value) =>
            told(
              version,
              await settle(
                api.PUT("/api/dishes/{id}", { params: { path: { id } }, body: { version, dish: value } }),
              ),
            ),
          ),
        true,
      ),
    [id, run],
  );
  const arrange = useCallback(
    (edit: Omit<Schemas["SequenceEdit"], "version">) =>
      run(
        (saves, shown, told) =>
          saves.after(shown, async (version) =>
            told(
              version,
              await settle(
                api.POST("/api/dishes/{id}/sequence", {
                  params: { path: { id } },
                  body: { ...edit, version },
                }),
              ),
            ),
          ),
        true,
      ),
    [id, run],
  );
  const takeBack = useCallback(async () => {
    const to = undo[undo.length - 1];
    if (to === undefined) return;
    await run(
      (saves, shown, told) =>
        saves.after(shown, async (version) =>
          told(
            version,
            await settle(
              api.POST("/api/dishes/{id}/restore", { params: { path: { id } }, body: { version, to } }),
            ),
          ),
        ),
      false,
    );
  }, [id, run, undo]);
  return { save, send, arrange, takeBack, canUndo: undo.length > 0, problem };
}
