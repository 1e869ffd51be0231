import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, Problem, settle, type Schemas } from "../../api/client";

export const usePrep = () =>
  useQuery({ queryKey: ["prep"], queryFn: () => settle(api.GET("/api/prep")), refetchInterval: 60_000 });

export const useServices = () =>
  useQuery({ queryKey: ["services"], queryFn: () => settle(api.GET("/api/services")) });

// useTicks ticks steps off; the answer is the plan with it.
export function useTicks() {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<Problem | null>(null);
  const tick = async (body: Schemas["TickIn"]) => {
    try {
      queries.setQueryData(["prep"], await settle(api.POST("/api/prep/ticks", { body })));
      setProblem(null);
    } catch (e) {
      if (!(e instanceof Problem)) throw e;
      setProblem(e);
    }
  };
  return { tick, problem };
}
