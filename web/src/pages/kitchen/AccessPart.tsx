import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { whyOf } from "../../api/problem";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { clock, day } from "../../ui/time";
import type { House } from "./useParts";

type Access = Schemas["AccessView"];
type Role = Schemas["AccessPerson"]["role"];

const roles: Exclude<Role, "">[] = ["chef", "pass", "section", "floor", "board"];

// AccessPart is who signs in, as what; and which screens are paired.
export function AccessPart({ h }: { h: House }) {
  const access = useQuery({ queryKey: keys.access, queryFn: () => settle(api.GET("/api/access")) });
  if (!access.data) return null;
  const locked = access.data.people.some((p) => p.role === "chef");
  return (
    <>
      <section className="card-enamel access" aria-label={text.access.title}>
        <header>
          <h2>{text.access.title}</h2>
        </header>
        {access.data.closed && <p>{text.access.closed}</p>}
        {!locked && <p>{text.access.openHere}</p>}
        <ul>
          {access.data.people.map((p) => (
            <AccessLine key={p.person} p={p} />
          ))}
        </ul>
      </section>
      <Screens h={h} list={access.data.devices} />
    </>
  );
}

// useAccess changes who may do what; the answer is shown at once.
function useAccess(call: () => Promise<Access>, done?: () => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: call,
    onSuccess: (a) => {
      queries.setQueryData(keys.access, a);
      void queries.invalidateQueries({ queryKey: keys.session });
      done?.();
    },
  });
}

function AccessLine({ p }: { p: Schemas["AccessPerson"] }) {
  const [role, setRole] = useState<Role | null>(null);
  const [secret, setSecret] = useState("");
  const at = { params: { path: { id: p.person } } };
  const wanted = role ?? p.role;
  const done = () => {
    setRole(null);
    setSecret("");
  };
  const set = useAccess(
    () =>
      settle(
        api.PUT("/api/access/people/{id}", {
          ...at,
          body: { role: wanted === "" ? "section" : wanted, secret: secret || undefined },
        }),
      ),
    done,
  );
  const end = useAccess(() => settle(api.DELETE("/api/access/people/{id}", at)), done);
  const submit = (e: FormEvent) => {
    e.preventDefault();
    if (wanted !== "") set.mutate();
  };
  const error = set.error ?? end.error;
  const chef = wanted === "chef";
  return (
    <li data-person={p.person}>
      <form onSubmit={submit}>
        <b>{p.name}</b>
        <label>
          <span className="visually-hidden">{`${text.access.may} ${p.name}`}</span>
          <select
            className="form-select"
            name={`role-${p.person}`}
            value={wanted}
            onChange={(e) => setRole(e.target.value as Role)}
          >
            {p.role === "" && <option value="">{text.access.roles[""]}</option>}
            {roles.map((r) => (
              <option key={r} value={r}>
                {text.access.roles[r]}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="visually-hidden">
            {chef ? text.access.newPassphrase : text.access.newPIN} {p.name}
          </span>
          <input
            className="form-control"
            name={`secret-${p.person}`}
            type="password"
            autoComplete="new-password"
            inputMode={chef ? "text" : "numeric"}
            placeholder={chef ? text.access.passphraseHint : text.access.pinHint}
            disabled={wanted === ""}
            value={secret}
            onChange={(e) => setSecret(e.target.value)}
          />
        </label>
        <Button
          type="submit"
          disabled={wanted === "" || set.isPending || (secret === "" && (role === null || role === p.role))}
        >
          {text.access.set}
        </Button>
        {p.role !== "" && (
          <Button look="outline-danger" disabled={end.isPending} onClick={() => end.mutate()}>
            {text.access.end}
          </Button>
        )}
        {p.set_at && <span className="quiet">{text.access.since(day(p.set_at))}</span>}
      </form>
      {error && (
        <p className="said" role="alert">
          <span className="mark-late">▲</span> {whyOf(error)}
        </p>
      )}
    </li>
  );
}

// Screens are those that are paired, and how another one is.
function Screens({ h, list }: { h: House; list: Schemas["AccessDevice"][] }) {
  const [name, setName] = useState("");
  const [place, setPlace] = useState("section/" + (h.sections[0]?.id ?? ""));
  const code = useMutation({
    mutationFn: () => {
      const [role, section] = place.split("/");
      return settle(
        api.POST("/api/access/pairings", {
          body: { name, role: role as "pass" | "section" | "floor" | "board", section: section || undefined },
        }),
      );
    },
  });
  const where = (d: Schemas["AccessDevice"]) =>
    d.role === "section"
      ? (h.sections.find((s) => s.id === d.section)?.name ?? d.section)
      : text.access.places[d.role];
  const submit = (e: FormEvent) => {
    e.preventDefault();
    if (name.trim()) code.mutate();
  };
  return (
    <section className="card-enamel access" aria-label={text.access.screens}>
      <header>
        <h2>{text.access.screens}</h2>
      </header>
      {list.length === 0 && <p className="quiet">{text.access.noScreens}</p>}
      <ul>
        {list.map((d) => (
          <ScreenLine key={d.id} d={d} where={where(d) ?? ""} />
        ))}
      </ul>
      <form className="pairing" onSubmit={submit}>
        <label>
          {text.access.screenName}
          <input
            className="form-control"
            name="screen-name"
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <label>
          {text.access.place}
          <select
            className="form-select"
            name="screen-place"
            value={place}
            onChange={(e) => setPlace(e.target.value)}
          >
            {h.sections.map((s) => (
              <option key={s.id} value={`section/${s.id}`}>
                {s.name}
              </option>
            ))}
            {(["pass", "floor", "board"] as const).map((r) => (
              <option key={r} value={`${r}/`}>
                {text.access.roles[r]}
              </option>
            ))}
          </select>
        </label>
        <Button type="submit" disabled={!name.trim() || code.isPending}>
          {text.access.makeCode}
        </Button>
      </form>
      {code.error && (
        <p className="said" role="alert">
          <span className="mark-late">▲</span> {whyOf(code.error)}
        </p>
      )}
      {code.data && <Code p={code.data} />}
    </section>
  );
}

function Code({ p }: { p: Schemas["Pairing"] }) {
  const address = new URL(p.link);
  const local = ["127.0.0.1", "localhost", "[::1]"].includes(address.hostname);
  return (
    <div className="code-shown" role="status">
      <img src={p.qr} alt={text.access.qr} width={200} height={200} />
      <div>
        <p>{text.access.openThere}</p>
        <p>{new URL("/pair", address).href}</p>
        <p className="code figure">{p.code.slice(0, 4) + " " + p.code.slice(4)}</p>
        <p className="quiet">
          {text.access.goodUntil(clock(p.until))} {local && text.access.loopback}
        </p>
      </div>
    </div>
  );
}

function ScreenLine({ d, where }: { d: Schemas["AccessDevice"]; where: string }) {
  const end = useAccess(() =>
    settle(api.DELETE("/api/access/devices/{id}", { params: { path: { id: d.id } } })),
  );
  return (
    <li data-screen={d.id}>
      <span>
        <b>{d.name}</b> {where}{" "}
        <span className="quiet">
          {text.access.pairedSince(day(d.paired_at))}
          {d.here && `, ${text.access.here}`}
        </span>
      </span>
      <Button look="outline-danger" disabled={end.isPending} onClick={() => end.mutate()}>
        {text.access.unpair}
      </Button>
    </li>
  );
}
