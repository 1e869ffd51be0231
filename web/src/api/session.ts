import { useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, settle, type Schemas } from "./client";
import { keys } from "./keys";

export type Session = Schemas["SessionView"];

// What is told when the server says that nobody has signed in, though somebody seemed to.
let hearing: (() => void) | null = null;
export const notSignedIn = () => hearing?.();

// useSession is who is at this screen, and what they may.
export function useSession() {
  return useQuery({
    queryKey: keys.session,
    queryFn: () => settle(api.GET("/api/session")),
    refetchInterval: 60_000,
  });
}

// useEntrance asks again who is here, whenever the server says that nobody is.
export function useEntrance() {
  const queries = useQueryClient();
  useEffect(() => {
    hearing = () => {
      const known = queries.getQueryData<Session>(keys.session);
      if (known && known.role !== "") void queries.invalidateQueries({ queryKey: keys.session });
    };
    return () => {
      hearing = null;
    };
  }, [queries]);
}

// entered shows what the server now says of who is here; what was kept of somebody else's is asked for again.
export function entered(queries: QueryClient, s: Session) {
  queries.setQueryData(keys.session, s);
  void queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== keys.session[0] });
}

export const signIn = (who: string, secret: string) =>
  settle(api.POST("/api/session/sign-in", { body: { who, secret } }));
export const signOut = () => settle(api.POST("/api/session/sign-out"));
export const choosePerson = (person: string) => settle(api.POST("/api/session/person", { body: { person } }));
export const pair = (code: string) => settle(api.POST("/api/session/pair", { body: { code } }));
export const unpair = () => settle(api.POST("/api/session/unpair"));

// usePerson is the id of who is at this screen, "" where nobody said.
export const usePerson = () => useSession().data?.person ?? "";
