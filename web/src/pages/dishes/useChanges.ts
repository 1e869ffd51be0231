import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { api, Problem, settle, type Schemas } from "../../api/client";

type Wish = Schemas["TableWish"];
export type StepChange = Omit<Schemas["StepChange"], "version" | "table">;

export interface Clash {
  component: string;
  step: string;
  change: StepChange;
  mine: string;
}

// useChanges saves changes of steps at once, says what each did to the plan, keeps
// what is needed to take it back, and stops when somebody else was quicker.
export function useChanges(wish: Wish) {
  const queries = useQueryClient();
  const [said, setSaid] = useState("");
  const [undo, setUndo] = useState<{ component: string; version: number }[]>([]);
  const [fault, setFault] = useState<Problem | null>(null);
  const [clash, setClash] = useState<Clash | null>(null);
  const [busy, setBusy] = useState(false);

  const took = useCallback(
    (component: string, answer: Schemas["Changed"]) => {
      queries.setQueryData(["component", component], {
        component: answer.component,
        version: answer.version,
      });
      if (answer.plan) queries.setQueryData(["plan", wish], answer.plan);
      void queries.invalidateQueries({ queryKey: ["dish"] });
      setSaid(answer.said);
      setFault(null);
    },
    [queries, wish],
  );

  const versionOf = useCallback(
    async (component: string, fresh = false): Promise<number> => {
      const view = await queries.fetchQuery({
        queryKey: ["component", component],
        queryFn: () => settle(api.GET("/api/components/{id}", { params: { path: { id: component } } })),
        staleTime: fresh ? 0 : Infinity,
      });
      return view.version;
    },
    [queries],
  );

  // One after another: the next is made from the version that the one before got.
  const tail = useRef<Promise<unknown>>(Promise.resolve());
  const change = useCallback(
    async (component: string, step: string, c: StepChange, mine: string, over = false): Promise<boolean> => {
      const before = tail.current;
      let end = () => {};
      tail.current = new Promise<void>((done) => (end = done));
      await before;
      setBusy(true);
      try {
        const version = await versionOf(component, over);
        const answer = await settle(
          api.PATCH("/api/components/{id}/steps/{step}", {
            params: { path: { id: component, step } },
            body: { ...c, version, table: wish },
          }),
        );
        took(component, answer);
        setUndo((u) => [...u, { component, version }]);
        setClash(null);
        return true;
      } catch (e) {
        if (!(e instanceof Problem)) throw e;
        if (e.status === 409) {
          await queries.invalidateQueries({ queryKey: ["component", component] });
          setClash({ component, step, change: c, mine });
        } else setFault(e);
        return false;
      } finally {
        setBusy(false);
        end();
      }
    },
    [queries, took, versionOf, wish],
  );

  const takeBack = useCallback(async () => {
    const last = undo[undo.length - 1];
    if (!last) return;
    setBusy(true);
    try {
      const version = await versionOf(last.component);
      const answer = await settle(
        api.POST("/api/components/{id}/restore", {
          params: { path: { id: last.component } },
          body: { version, to: last.version, table: wish },
        }),
      );
      took(last.component, answer);
      setUndo((u) => u.slice(0, -1));
    } catch (e) {
      if (!(e instanceof Problem)) throw e;
      setFault(e);
    } finally {
      setBusy(false);
    }
  }, [took, undo, versionOf, wish]);

  const refresh = useCallback(async () => {
    setClash(null);
    await queries.invalidateQueries();
  }, [queries]);

  return {
    said,
    fault,
    clash,
    busy,
    canUndo: undo.length > 0,
    change,
    takeBack,
    refresh,
    clearFault: () => setFault(null),
  };
}
