import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { savesOf, type Held, type Saves } from "../../api/saves";
import { useSave } from "../../api/useSave";
import { forget } from "./lineDrafts";

type Component = Schemas["Component"];
// Told takes what the server answered to a save made from a version.
type Told = (from: number, answer: Schemas["Changed"]) => Held<Component>;
type Edit = Omit<Schemas["ChainEdit"], "version">;

const stale = [
  keys.component(),
  keys.components,
  keys.dish(),
  keys.plate(),
  keys.plan(),
  keys.lines(),
  keys.day,
];

// useComponentChanges saves a component at once, says what was done, and keeps what is
// needed to take it back.
export function useComponentChanges(view: Schemas["ComponentView"]) {
  const queries = useQueryClient();
  const { id } = view.component;
  const [undo, setUndo] = useState<number[]>([]);
  const [said, setSaid] = useState("");
  const { save: send, problem } = useSave(stale);
  const run = useCallback(
    async (
      turn: (saves: Saves<Component>, shown: Held<Component>, told: Told) => Promise<unknown>,
      forward: boolean,
    ) =>
      (await send(() =>
        turn(
          savesOf<Component>(`component/${id}`),
          { version: view.version, value: view.component },
          (from, answer) => {
            queries.setQueryData<Schemas["ComponentView"]>(keys.component(id), answer);
            setUndo((u) => (forward ? [...u, from] : u.slice(0, -1)));
            setSaid(answer.said.text);
            return { version: answer.version, value: answer.component };
          },
        ),
      )) !== null,
    [id, queries, send, view],
  );
  const params = { path: { id } };
  return {
    problem,
    send,
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
    probe: (step: string, typed: string) =>
      run(
        (saves, shown, told) =>
          saves.after(shown, async (version) =>
            told(
              version,
              await settle(
                api.PUT("/api/components/{id}/steps/{step}/probe", {
                  params: { path: { id, step } },
                  body: { version, text: typed },
                }),
              ),
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
