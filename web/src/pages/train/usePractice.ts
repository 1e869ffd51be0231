import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";

export type Practice = Schemas["PracticeView"];

// usePractice is one that goes on, or has ended; "" for none.
export const usePractice = (id: string) =>
  useQuery({
    queryKey: keys.practice(id),
    queryFn: () => settle(api.GET("/api/practices/{id}", { params: { path: { id } } })),
    enabled: id !== "",
    refetchInterval: (q) => (q.state.data?.running || q.state.data?.judging ? 1000 : false),
  });

export const useTraining = (person: string, section: string) =>
  useQuery({
    queryKey: keys.training(`${person}/${section}`),
    placeholderData: keepPreviousData, // the page stays where it is while somebody else is asked about
    refetchOnMount: "always", // one comes back to it from what was just trained
    queryFn: () =>
      settle(
        api.GET("/api/practices", {
          params: { query: { person: person || undefined, section: section || undefined } },
        }),
      ),
  });

// screenOf is where one is shown: at its section, or at the pass where it is watched.
export const screenOf = (p: Practice) =>
  `${p.section ? `/section/${p.section}` : "/pass"}?service=${encodeURIComponent(p.id)}`;

// useBegin begins one, and goes to its screen.
export function useBegin() {
  const go = useNavigate();
  return async (body: Schemas["PracticeIn"]) => {
    const p = await settle(api.POST("/api/practices", { body }));
    await go(screenOf(p));
  };
}
