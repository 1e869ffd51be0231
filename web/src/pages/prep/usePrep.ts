import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, Problem, settle, type Schemas } from "../../api/client";

export const usePrep = () =>
  useQuery({
    queryKey: ["prep"],
    queryFn: () => settle(api.GET("/api/prep")),
    refetchInterval: (q) => (q.state.data?.following ? 1000 : 60_000),
  });

export const useServices = () =>
  useQuery({ queryKey: ["services"], queryFn: () => settle(api.GET("/api/services")) });

// useTicks ticks steps off; the plan with it is asked for then.
export function useTicks() {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<Problem | null>(null);
  const tick = async (body: Schemas["TickIn"]) => {
    try {
      await settle(api.POST("/api/prep/ticks", { body }));
      setProblem(null);
    } catch (e) {
      if (!(e instanceof Problem)) throw e;
      setProblem(e);
    }
    await queries.invalidateQueries({ queryKey: ["prep"] });
  };
  return { tick, problem };
}
