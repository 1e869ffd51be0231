import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { Problem, type Schemas } from "../../api/client";
import { saveService } from "../prep/usePrep";

type Service = Schemas["Service"];

// useServiceChange saves a change of a service at once, made from what is shown; the plan
// with it follows.
export function useServiceChange(shown: Schemas["ServiceLine"] | undefined) {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<Problem | null>(null);
  const change = useCallback(
    async (changed: (s: Service) => Service) => {
      if (!shown) return;
      try {
        await saveService(shown, changed(shown.service));
        setProblem(null);
      } catch (e) {
        if (!(e instanceof Problem)) throw e;
        setProblem(e);
      }
      await queries.invalidateQueries();
    },
    [queries, shown],
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
