import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { useNavigate } from "react-router";
import { whyOf } from "../api/problem";
import { entered, signIn, type Session } from "../api/session";
import { text } from "../text";
import { Button } from "../ui/Button";

const digits = ["1", "2", "3", "4", "5", "6", "7", "8", "9"];

// SignInPage lets somebody in by their PIN, typed or pressed with a wet finger, or by a passphrase.
export function SignInPage({ session }: { session: Session }) {
  const queries = useQueryClient();
  const go = useNavigate();
  const [who, setWho] = useState("");
  const [secret, setSecret] = useState("");
  const enter = useMutation({
    mutationFn: () => signIn(who, secret),
    onSuccess: (s) => {
      entered(queries, s);
      void go("/", { replace: true });
    },
    onError: () => setSecret(""),
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    if (who.trim() && secret) enter.mutate();
  };
  return (
    <main className="entrance">
      <form className="card-enamel" onSubmit={submit} aria-label={text.access.signIn}>
        <h1>{session.house || text.access.signIn}</h1>
        <label>
          {text.access.name}
          <input
            className="form-control"
            name="name"
            list="people-here"
            autoComplete="username"
            autoFocus
            value={who}
            onChange={(e) => setWho(e.target.value)}
          />
          <datalist id="people-here">
            {session.people.map((p) => (
              <option key={p.id} value={p.name} />
            ))}
          </datalist>
        </label>
        <label>
          {text.access.secret}
          <input
            className="form-control"
            name="secret"
            type="password"
            autoComplete="current-password"
            value={secret}
            onChange={(e) => setSecret(e.target.value)}
          />
        </label>
        <div className="digits" role="group" aria-label={text.access.digits}>
          {digits.map((d) => (
            <Button key={d} onClick={() => setSecret((s) => s + d)}>
              {d}
            </Button>
          ))}
          <Button aria-label={text.access.clear} onClick={() => setSecret("")}>
            C
          </Button>
          <Button onClick={() => setSecret((s) => s + "0")}>0</Button>
          <Button aria-label={text.access.back} onClick={() => setSecret((s) => s.slice(0, -1))}>
            ←
          </Button>
        </div>
        {enter.error && (
          <p className="said" role="alert">
            <span className="mark-late">▲</span> {whyOf(enter.error)}
          </p>
        )}
        <Button look="primary" type="submit" disabled={enter.isPending || !who.trim() || !secret}>
          {text.access.signIn}
        </Button>
        <p className="quiet">
          {session.device ? text.access.screenStays(session.device.name) : text.access.screen}{" "}
          {session.device ? <a href="/">{text.access.backTo}</a> : <a href="/pair">{text.access.pairHere}</a>}
        </p>
      </form>
    </main>
  );
}
