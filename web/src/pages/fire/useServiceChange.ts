import { useCallback } from "react";
import type { Schemas } from "../../api/client";
import { useSave } from "../../api/useSave";
import { saveService } from "../prep/usePrep";

type Service = Schemas["Service"];

// useServiceChange saves a change of a service at once, made from what is shown; the plan
// with it follows.
export function useServiceChange(shown: Schemas["ServiceLine"] | undefined) {
  const { save, problem } = useSave();
  const change = useCallback(
    async (changed: (s: Service) => Service) => {
      if (shown) await save(() => saveService(shown, changed(shown.service)));
    },
    [save, shown],
  );
  const moveTable = useCallback(
    (table: string, minutes: number) =>
      void change((s) => ({
        ...s,
        tables: s.tables.map((t) =>
          t.id === table ? { ...t, seated_at: Math.max(0, t.seated_at + minutes) } : t,
        ),
      })),
    [change],
  );
  return { change, moveTable, problem };
}
