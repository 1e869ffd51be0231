import { useQuery } from "@tanstack/react-query";
import { api, settle, type Schemas } from "./client";
import { keys } from "./keys";

export const useHouse = () =>
  useQuery({ queryKey: keys.house, queryFn: () => settle(api.GET("/api/kitchen")), refetchInterval: 30_000 });

export const useDishes = () =>
  useQuery({ queryKey: keys.dishes, queryFn: () => settle(api.GET("/api/dishes")) });

export const useDish = (id: string, variant: string, draft: boolean) =>
  useQuery({
    queryKey: keys.dish(id, variant, draft),
    queryFn: () =>
      settle(
        api.GET("/api/dishes/{id}", {
          params: { path: { id }, query: { variant: variant || undefined, draft: draft || undefined } },
        }),
      ),
    placeholderData: (old) => old,
  });

export const useComponent = (id: string) =>
  useQuery({
    queryKey: keys.component(id),
    queryFn: () => settle(api.GET("/api/components/{id}", { params: { path: { id } } })),
  });

export const usePlan = (wish: Schemas["TableWish"]) =>
  useQuery({
    queryKey: keys.plan(wish),
    queryFn: () => settle(api.POST("/api/plan", { body: wish })),
    placeholderData: (old) => old,
  });

export const useComponents = () =>
  useQuery({ queryKey: keys.components, queryFn: () => settle(api.GET("/api/components")) });

export const usePlate = (id: string, variant: string, draft: boolean) =>
  useQuery({
    queryKey: keys.plate(id, variant, draft),
    queryFn: () =>
      settle(
        api.GET("/api/dishes/{id}/plate", {
          params: { path: { id }, query: { variant: variant || undefined, draft: draft || undefined } },
        }),
      ),
    placeholderData: (old) => old,
  });

export const useDay = () =>
  useQuery({
    queryKey: keys.day,
    queryFn: () => settle(api.GET("/api/day")),
    // What following a change would do is being worked out: it is asked for until it is there.
    refetchInterval: (q) => (q.state.data?.offers.some((o) => !o.said.key) ? 1000 : 20_000),
  });
