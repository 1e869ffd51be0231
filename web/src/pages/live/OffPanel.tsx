import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { joinKey, type Due, type JoinDue } from "../../api/live";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { clock } from "../../ui/time";
import { Away } from "./AwayPanel";
import type { Running } from "./useService";

type Lack = Schemas["Lack"];

// counts are how many can be said to be left by one press.
const counts = [0, 1, 2, 3, 4, 6, 8, 12];

// has are the joins that are still to be plated and have what is off.
export const has = (due: Due, l: Lack): JoinDue[] =>
  due.joins.filter(
    (j) =>
      ["planned", "called", "held"].includes(j.standing) &&
      (l.component
        ? j.parts.some((p) => p.component === l.component)
        : j.served.some((d) => d.dish === l.dish)),
  );

// nameOf is what is off, by its name.
export function nameOf(due: Due, l: Lack): string {
  const name = l.component
    ? due.joins.flatMap((j) => j.parts).find((p) => p.component === l.component)?.what
    : due.joins.flatMap((j) => j.served).find((d) => d.dish === l.dish)?.name;
  return name?.split(",")[0] ?? l.component ?? l.dish ?? "";
}

// OffPanel says what is off, or how many are left, and what can stand in for it.
export function OffPanel({
  r,
  due,
  join,
  onClose,
}: {
  r: Running;
  due: Due;
  join: JoinDue;
  onClose: () => void;
}) {
  const words = text.live;
  const [what, setWhat] = useState<{ component?: string; dish?: string; name: string } | null>(null);
  const [chosen, setChosen] = useState("");
  const lack = due.off.find((l) => l.event === chosen) ?? due.off.find((l) => has(due, l).length > 0);
  return (
    <div className="panel off-panel" role="dialog" aria-label={words.offPress}>
      {due.off.length > 0 && (
        <>
          <b>{words.offNowList}</b>
          <span className="presses">
            {due.off.map((l) => (
              <Button key={l.event} aria-pressed={l === lack} onClick={() => setChosen(l.event)}>
                {nameOf(due, l)}
                <small>{l.left > 0 ? words.order.left(l.left) : words.tablesHave(has(due, l).length)}</small>
              </Button>
            ))}
          </span>
        </>
      )}
      {lack && <StandIns r={r} due={due} lack={lack} onClose={onClose} />}
      <b>{what ? words.howMany(what.name) : words.whatIsOff}</b>
      <span className="presses what-off">
        {what
          ? counts.map((n) => (
              <Button
                key={n}
                onClick={() => {
                  r.tap(`${what.name}: ${n === 0 ? words.off : words.order.left(n)}`, {
                    kind: "off",
                    component: what.component,
                    dish: what.dish,
                    ...(n > 0 ? { left: n } : {}),
                  });
                  setWhat(null);
                }}
              >
                {n === 0 ? words.none : n}
              </Button>
            ))
          : [
              ...join.served.map((d) => ({ dish: d.dish, name: d.name.split(",")[0] ?? d.name })),
              ...join.parts.map((p) => ({ component: p.component, name: p.what })),
            ]
              .filter((x) => !due.off.some((l) => l.left === 0 && is(l, x)))
              .map((x) => (
                <Button key={x.name + ("dish" in x ? "/dish" : "")} onClick={() => setWhat(x)}>
                  {x.name}
                  {"dish" in x && <small>{words.dish}</small>}
                </Button>
              ))}
      </span>
      {!what && <Away r={r} due={due} />}
    </div>
  );
}

const is = (l: Lack, x: { component?: string; dish?: string }) =>
  x.component ? l.component === x.component : l.dish === x.dish;

// StandIns are what can be served instead, with when its tables have it and what it brings.
function StandIns({ r, due, lack, onClose }: { r: Running; due: Due; lack: Lack; onClose: () => void }) {
  const words = text.live;
  const id = r.service?.id ?? "";
  const offers = useQuery({
    queryKey: keys.standIns(id, lack.event, due.plan),
    queryFn: () =>
      settle(
        api.GET("/api/services/{id}/stand-ins", {
          params: { path: { id }, query: { component: lack.component, dish: lack.dish } },
        }),
      ),
    enabled: has(due, lack).length > 0 && lack.left === 0,
    // While the plan moves, what was offered by the one before stands there.
    placeholderData: (before, query) => (query?.queryKey.includes(lack.event) ? before : undefined),
    retry: false,
  });
  const name = nameOf(due, lack);
  const use = (o: Schemas["StandInOffer"]) => {
    for (const t of o.tables) {
      const fired = due.joins
        .find((j) => joinKey(j) === joinKey(t))
        ?.parts.some((p) => p.state !== "waiting");
      r.tap(`${t.name}: ${o.name} ${words.insteadOf} ${name}`, {
        kind: "ordered",
        table: t.table,
        course: t.course,
        plates: t.plates,
        ...(fired ? { anyway: true } : {}),
      });
    }
    onClose();
  };
  return (
    <div className="stand-ins">
      {offers.isLoading && <p className="quiet">{words.lookingFor}</p>}
      {offers.isError && <p className="late">▲ {text.live.order.noLine}</p>}
      {offers.data?.stand_ins.length === 0 && <p className="late">▲ {words.nothingInstead(name)}</p>}
      <ul>
        {offers.data?.stand_ins.map((o) => (
          <li key={o.dish + (o.variant ?? "")}>
            <span>
              <b>
                {o.name}
                {o.variant && `, ${o.variant}`}
              </b>
              <span className="quiet">{tablesOf(o)}</span>
              <span className={o.brings.length + o.unknown.length + o.not.length > 0 ? "told" : "quiet"}>
                {[
                  o.brings.length > 0 ? words.brings(o.brings) : words.bringsNothing,
                  o.unknown.length > 0 ? words.notKnown(o.unknown) : "",
                  o.not.length > 0 ? words.notFor(o.not) : "",
                ]
                  .filter(Boolean)
                  .join(" ")}
              </span>
            </span>
            <Button look="primary" onClick={() => use(o)}>
              {words.use}
            </Button>
          </li>
        ))}
      </ul>
      <span className="presses">
        <Button
          onClick={() =>
            r.tap(`${name}: ${words.onAgain}`, { kind: "on", component: lack.component, dish: lack.dish })
          }
        >
          {name} {words.onAgain}
        </Button>
      </span>
    </div>
  );
}

// named is how many tables are named one by one.
const named = 4;

// tablesOf are the tables that would have a stand-in, the first of them by name, with when each has it.
function tablesOf(o: Schemas["StandInOffer"]): string {
  const list = o.tables
    .map((t) => ({ t, at: o.times.find((x) => x.table === t.table && x.course === t.course) }))
    .sort((a, b) => Date.parse(a.at?.at ?? "") - Date.parse(b.at?.at ?? ""));
  const most = Math.max(...list.slice(named).map((x) => x.at?.later_s ?? 0), 0);
  return [
    ...list
      .slice(0, named)
      .map(({ t, at }) => `${t.count} × ${t.name}${at ? ` ${clock(at.at)}${later(at.later_s)}` : ""}`),
    ...(list.length > named ? [text.live.more(list.length - named) + later(most)] : []),
  ].join(" · ");
}

// later is by how much a table has it later than is told now, in half minutes; nothing below one.
const later = (s: number) => {
  const halves = Math.round(s / 30);
  if (halves <= 0) return "";
  return ` ${text.live.laterBy(halves % 2 === 0 ? `${halves / 2}` : `${halves > 1 ? Math.floor(halves / 2) : ""}½`)}`;
};
