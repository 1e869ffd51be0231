import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, Problem, settle, type Schemas } from "../../api/client";
import { savesOf, type Held } from "../../api/saves";

export const usePrep = () =>
  useQuery({
    queryKey: ["prep"],
    queryFn: () => settle(api.GET("/api/prep")),
    refetchInterval: (q) => (q.state.data?.following ? 1000 : 60_000),
  });

export const useServices = () =>
  useQuery({ queryKey: ["services"], queryFn: () => settle(api.GET("/api/services")) });

// saveService saves a changed service after the saves before it, from the version that is
// shown: what somebody else changed meanwhile is not written over.
export const saveService = (
  shown: Schemas["ServiceLine"],
  value: Schemas["Service"],
): Promise<Held<Schemas["Service"]>> =>
  savesOf<Schemas["Service"]>(`service/${value.id}`).save(
    { version: shown.version, value: shown.service },
    value,
    async (version, mine) => {
      const house = await settle(
        api.PUT("/api/services/{id}", {
          params: { path: { id: value.id } },
          body: { version, value: mine },
        }),
      );
      return { version: house.versions[`service/${value.id}`] ?? version + 1, value: mine };
    },
  );

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
