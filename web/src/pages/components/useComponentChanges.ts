import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { api, Problem, settle, type Schemas } from "../../api/client";
import { savesOf, type Held, type Saves } from "../../api/saves";
import { forget } from "./lineDrafts";

type Component = Schemas["Component"];
// Told takes what the server answered to a save made from a version.
type Told = (from: number, answer: Schemas["Changed"]) => Held<Component>;
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
    async (
      turn: (saves: Saves<Component>, shown: Held<Component>, told: Told) => Promise<unknown>,
      forward: boolean,
    ) => {
      try {
        await turn(
          savesOf<Component>(`component/${id}`),
          { version: view.version, value: view.component },
          (from, answer) => {
            queries.setQueryData(["component", id], { component: answer.component, version: answer.version });
            setUndo((u) => (forward ? [...u, from] : u.slice(0, -1)));
            setSaid(answer.said);
            return { version: answer.version, value: answer.component };
          },
        );
        setProblem(null);
        return true;
      } catch (e) {
        if (!(e instanceof Problem)) throw e;
        setProblem(e);
        if (e.status === 409) await queries.invalidateQueries({ queryKey: ["component", id] });
        return false;
      } finally {
        await Promise.all(
          ["components", "dish", "plate", "plan", "lines", "day"].map((k) =>
            queries.invalidateQueries({ queryKey: [k] }),
          ),
        );
      }
    },
    [id, queries, view],
  );
  const params = { path: { id } };
  return {
    problem,
    setProblem,
    said,
    canUndo: undo.length > 0,
    save: (component: Component) =>
      run(
        (saves, shown, told) =>
          saves.save(shown, component, async (version, value) =>
            told(
              version,
              await settle(api.PUT("/api/components/{id}", { params, body: { version, component: value } })),
            ),
          ),
        true,
      ),
    chain: (edit: Edit) =>
      run(
        (saves, shown, told) =>
          saves.after(shown, async (version) =>
            told(
              version,
              await settle(api.POST("/api/components/{id}/chain", { params, body: { ...edit, version } })),
            ),
          ),
        true,
      ),
    lines: (typed: string) =>
      run(
        (saves, shown, told) =>
          saves.after(shown, async (version) => {
            const answer = await settle(
              api.PUT("/api/components/{id}/lines", { params, body: { version, text: typed } }),
            );
            forget(id); // before the page shows what was saved
            return told(version, answer);
          }),
        true,
      ),
    takeBack: () => {
      const to = undo[undo.length - 1];
      if (to !== undefined)
        void run(
          (saves, shown, told) =>
            saves.after(shown, async (version) =>
              told(
                version,
                await settle(api.POST("/api/components/{id}/restore", { params, body: { version, to } })),
              ),
            ),
          false,
        );
    },
  };
}
