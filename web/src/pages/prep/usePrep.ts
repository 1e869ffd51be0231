import { useQuery } from "@tanstack/react-query";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { savesOf, type Held } from "../../api/saves";
import { useSave } from "../../api/useSave";

export const usePrep = () =>
  useQuery({
    queryKey: keys.prep,
    queryFn: () => settle(api.GET("/api/prep")),
    refetchInterval: (q) => (q.state.data?.following ? 1000 : 60_000),
  });

export const useServices = () =>
  useQuery({ queryKey: keys.services, queryFn: () => settle(api.GET("/api/services")) });

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

// editTables adds a table to a service, or takes one out, after the saves before it.
export const editTables = (
  shown: Schemas["ServiceLine"],
  edit: Omit<Schemas["TablesEdit"], "version">,
): Promise<Held<Schemas["Service"]>> =>
  savesOf<Schemas["Service"]>(`service/${shown.service.id}`).after(
    { version: shown.version, value: shown.service },
    async (version) => {
      const answer = await settle(
        api.POST("/api/services/{id}/tables", {
          params: { path: { id: shown.service.id } },
          body: { ...edit, version },
        }),
      );
      return { version: answer.version, value: answer.service };
    },
  );

// useTicks ticks steps off; the plan with it is asked for then.
export function useTicks() {
  const { save, problem } = useSave([keys.prep]);
  return {
    tick: (body: Schemas["TickIn"]) => save(() => settle(api.POST("/api/prep/ticks", { body }))),
    problem,
  };
}
