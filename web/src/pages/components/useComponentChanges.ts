import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { api, Problem, settle, type Schemas } from "../../api/client";

type Component = Schemas["Component"];
type Edit = Omit<Schemas["ChainEdit"], "version">;

// useComponentChanges saves a component at once, says what was done, and keeps what is
// needed to take it back.
export function useComponentChanges(view: Schemas["ComponentView"]) {
  const queries = useQueryClient();
  const { id } = view.component;
  const [undo, setUndo] = useState<number[]>([]);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [said, setSaid] = useState("");
  const run = useCallback(
    async (call: () => Promise<Schemas["Changed"]>, forward: boolean) => {
      try {
        const answer = await call();
        queries.setQueryData(["component", id], { component: answer.component, version: answer.version });
        setUndo((u) => (forward ? [...u, view.version] : u.slice(0, -1)));
        setSaid(answer.said);
        setProblem(null);
      } catch (e) {
        if (!(e instanceof Problem)) throw e;
        setProblem(e);
        if (e.status === 409) await queries.invalidateQueries({ queryKey: ["component", id] });
      }
      await Promise.all(
        ["components", "dish", "plate", "plan", "lines"].map((k) =>
          queries.invalidateQueries({ queryKey: [k] }),
        ),
      );
    },
    [id, queries, view.version],
  );
  const params = { path: { id } };
  return {
    problem,
    setProblem,
    said,
    canUndo: undo.length > 0,
    save: (component: Component) =>
      run(
        () => settle(api.PUT("/api/components/{id}", { params, body: { version: view.version, component } })),
        true,
      ),
    chain: (edit: Edit) =>
      run(
        () =>
          settle(
            api.POST("/api/components/{id}/chain", { params, body: { ...edit, version: view.version } }),
          ),
        true,
      ),
    lines: (typed: string) =>
      run(
        () =>
          settle(
            api.PUT("/api/components/{id}/lines", { params, body: { version: view.version, text: typed } }),
          ),
        true,
      ),
    takeBack: () => {
      const to = undo[undo.length - 1];
      if (to !== undefined)
        void run(
          () =>
            settle(api.POST("/api/components/{id}/restore", { params, body: { version: view.version, to } })),
          false,
        );
    },
  };
}
