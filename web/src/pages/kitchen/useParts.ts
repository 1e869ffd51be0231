import { useQueryClient } from "@tanstack/react-query";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { savesOf } from "../../api/saves";
import { useSave } from "../../api/useSave";

export type House = Schemas["House"];

// Part is how one kind of the kitchen's parts is added, changed and removed.
export interface Part<T> {
  add: (name: string) => void;
  change: (value: T) => void;
  remove: (id: string) => void;
}

interface Calls<T> {
  kind: string;
  listOf: (h: House) => T[];
  add: (name: string) => Promise<House>;
  put: (id: string, version: number, value: T) => Promise<House>;
  remove: (id: string, version: number) => Promise<House>;
}

// useHouseChanges saves what the kitchen is; what the server answers is shown at once.
export function useHouseChanges(h: House) {
  const queries = useQueryClient();
  const { save, problem } = useSave();
  const versionOf = (kind: string, id: string) => h.versions[`${kind}/${id}`] ?? 0;
  const send = (call: () => Promise<House>) =>
    void save(async () => {
      const house = await call();
      queries.setQueryData(keys.house, house);
      return house;
    });
  // change saves one of a list after the saves of it before.
  const change = <T>(key: string, was: { version: number; value: T }, value: T, put: Put<T>) =>
    send(async () => {
      let house = h;
      await savesOf<T>(key).save(was, value, async (version, mine) => {
        house = await put(version, mine);
        return { version: house.versions[key] ?? 0, value: mine };
      });
      return house;
    });
  const part = <T extends { id: string }>(c: Calls<T>): Part<T> => ({
    add: (name) => send(() => c.add(name)),
    change: (value) => {
      const old = c.listOf(h).find((x) => x.id === value.id);
      if (old)
        change(
          `${c.kind}/${value.id}`,
          { version: versionOf(c.kind, value.id), value: old },
          value,
          (v, mine) => c.put(value.id, v, mine),
        );
    },
    remove: (id) => send(() => c.remove(id, versionOf(c.kind, id))),
  });
  const at = (id: string) => ({ params: { path: { id } } });
  const gone = (id: string, version: number) => ({ params: { path: { id }, query: { version } } });
  return {
    problem,
    settings: (value: Schemas["Kitchen"]) =>
      change(
        "kitchen/kitchen",
        { version: versionOf("kitchen", "kitchen"), value: h.kitchen },
        value,
        (version, mine) => settle(api.PUT("/api/kitchen", { body: { version, value: mine } })),
      ),
    sections: part<Schemas["Section"]>({
      kind: "section",
      listOf: (x) => x.sections,
      add: (name) => settle(api.POST("/api/sections", { body: { name } })),
      put: (id, version, value) =>
        settle(api.PUT("/api/sections/{id}", { ...at(id), body: { version, value } })),
      remove: (id, version) => settle(api.DELETE("/api/sections/{id}", gone(id, version))),
    }),
    people: part<Schemas["Person"]>({
      kind: "person",
      listOf: (x) => x.people,
      add: (name) => settle(api.POST("/api/people", { body: { name } })),
      put: (id, version, value) =>
        settle(api.PUT("/api/people/{id}", { ...at(id), body: { version, value } })),
      remove: (id, version) => settle(api.DELETE("/api/people/{id}", gone(id, version))),
    }),
    equipment: part<Schemas["Equipment"]>({
      kind: "equipment",
      listOf: (x) => x.equipment,
      add: (name) => settle(api.POST("/api/equipment", { body: { name } })),
      put: (id, version, value) =>
        settle(api.PUT("/api/equipment/{id}", { ...at(id), body: { version, value } })),
      remove: (id, version) => settle(api.DELETE("/api/equipment/{id}", gone(id, version))),
    }),
    vessels: part<Schemas["Vessel"]>({
      kind: "vessel",
      listOf: (x) => x.vessels,
      add: (name) => settle(api.POST("/api/vessels", { body: { name } })),
      put: (id, version, value) =>
        settle(api.PUT("/api/vessels/{id}", { ...at(id), body: { version, value } })),
      remove: (id, version) => settle(api.DELETE("/api/vessels/{id}", gone(id, version))),
    }),
  };
}

type Put<T> = (version: number, value: T) => Promise<House>;
