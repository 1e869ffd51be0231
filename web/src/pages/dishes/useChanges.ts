import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { conflicted } from "../../api/problem";
import { savesOf } from "../../api/saves";
import { useSave } from "../../api/useSave";

type Wish = Schemas["TableWish"];
type Component = Schemas["Component"];
export type StepChange = Omit<Schemas["StepChange"], "version" | "table">;

export interface Clash {
  component: string;
  step: string;
  change: StepChange;
  mine: string;
}

const stale = [keys.dish(), keys.day];

// useChanges saves changes of steps at once, says what each did to the plan, keeps
// what is needed to take it back, and stops when somebody else was quicker.
export function useChanges(wish: Wish) {
  const queries = useQueryClient();
  const [said, setSaid] = useState("");
  const [undo, setUndo] = useState<{ component: string; version: number }[]>([]);
  const [clash, setClash] = useState<Clash | null>(null);
  const { save, problem, setProblem, busy } = useSave(stale);

  const took = useCallback(
    (component: string, answer: Schemas["Changed"]) => {
      queries.setQueryData<Schemas["ComponentView"]>(keys.component(component), answer);
      if (answer.plan) queries.setQueryData(keys.plan(wish), answer.plan);
      setSaid(answer.said.text);
      return { version: answer.version, value: answer.component };
    },
    [queries, wish],
  );

  // inTurn sends what needs a component's version after the saves before it: from the version that is shown, or from
  // a fresh one where somebody chose to put theirs over another's.
  const inTurn = useCallback(
    (component: string, fresh: boolean, send: (version: number) => Promise<Schemas["Changed"]>) =>
      save(async () => {
        const view = await queries.fetchQuery({
          queryKey: keys.component(component),
          queryFn: () => settle(api.GET("/api/components/{id}", { params: { path: { id: component } } })),
          staleTime: fresh ? 0 : Infinity,
        });
        return savesOf<Component>(`component/${component}`).after(
          { version: view.version, value: view.component },
          async (version) => took(component, await send(version)),
        );
      }),
    [queries, save, took],
  );

  const change = useCallback(
    async (component: string, step: string, c: StepChange, mine: string, over = false): Promise<boolean> => {
      const done = await inTurn(component, over, async (version) => {
        try {
          const answer = await settle(
            api.PATCH("/api/components/{id}/steps/{step}", {
              params: { path: { id: component, step } },
              body: { ...c, version, table: wish },
            }),
          );
          setUndo((u) => [...u, { component, version }]);
          setClash(null);
          return answer;
        } catch (e) {
          if (conflicted(e)) setClash({ component, step, change: c, mine });
          throw e;
        }
      });
      if (done === null) await queries.invalidateQueries({ queryKey: keys.component(component) });
      return done !== null;
    },
    [inTurn, queries, wish],
  );

  const takeBack = useCallback(async () => {
    const last = undo[undo.length - 1];
    if (!last) return;
    const done = await inTurn(last.component, false, (version) =>
      settle(
        api.POST("/api/components/{id}/restore", {
          params: { path: { id: last.component } },
          body: { version, to: last.version, table: wish },
        }),
      ),
    );
    if (done !== null) setUndo((u) => u.slice(0, -1));
  }, [inTurn, undo, wish]);

  const refresh = useCallback(async () => {
    setClash(null);
    await queries.invalidateQueries();
  }, [queries]);

  return {
    said,
    fault: problem?.status === 409 ? null : problem, // the dialog says it
    clash,
    busy,
    canUndo: undo.length > 0,
    change,
    takeBack,
    refresh,
    clearFault: () => setProblem(null),
  };
}
