import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { api, Problem, settle, type Schemas } from "../../api/client";

type Service = Schemas["Service"];

// useServiceChange saves a change of a service at once; the plan with it follows.
export function useServiceChange(id: string) {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<Problem | null>(null);
  const change = useCallback(
    async (changed: (s: Service) => Service) => {
      try {
        const all = await settle(api.GET("/api/services"));
        const s = all.find((x) => x.service.id === id);
        if (s)
          await settle(
            api.PUT("/api/services/{id}", {
              params: { path: { id } },
              body: { version: s.version, value: changed(s.service) },
            }),
          );
        setProblem(null);
      } catch (e) {
        if (!(e instanceof Problem)) throw e;
        setProblem(e);
      }
      await queries.invalidateQueries();
    },
    [id, queries],
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
