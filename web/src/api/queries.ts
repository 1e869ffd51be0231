import { useQuery } from "@tanstack/react-query";
import { api, settle, type Schemas } from "./client";

export const useHouse = () =>
  useQuery({ queryKey: ["house"], queryFn: () => settle(api.GET("/api/kitchen")), refetchInterval: 30_000 });

export const useDishes = () =>
  useQuery({ queryKey: ["dishes"], queryFn: () => settle(api.GET("/api/dishes")) });

export const useDish = (id: string, variant: string, draft: boolean) =>
  useQuery({
    queryKey: ["dish", id, variant, draft],
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
    queryKey: ["component", id],
    queryFn: () => settle(api.GET("/api/components/{id}", { params: { path: { id } } })),
  });

export const usePlan = (wish: Schemas["TableWish"]) =>
  useQuery({
    queryKey: ["plan", wish],
    queryFn: () => settle(api.POST("/api/plan", { body: wish })),
    placeholderData: (old) => old,
    retry: false,
  });

export const useComponents = () =>
  useQuery({ queryKey: ["components"], queryFn: () => settle(api.GET("/api/components")) });

export const usePlate = (id: string, variant: string, draft: boolean) =>
  useQuery({
    queryKey: ["plate", id, variant, draft],
    queryFn: () =>
      settle(
        api.GET("/api/dishes/{id}/plate", {
          params: { path: { id }, query: { variant: variant || undefined, draft: draft || undefined } },
        }),
      ),
    placeholderData: (old) => old,
  });
