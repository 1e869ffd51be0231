import { useState } from "react";
import { joinKey, type Due, type JoinDue } from "../../api/live";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { clock } from "../../ui/time";
import { Head, Waiting } from "./Head";
import { useRunning, type Running } from "./useService";

// FloorPage is a waiter's telephone: each table with its next course and when it comes, who is there, who is ready for more.
export function FloorPage() {
  const r = useRunning();
  return (
    <div className="live floor-screen">
      <Head r={r} title={text.live.floor} under={r.service?.name ?? ""} />
      {r.due?.phase === "open" ? <Tables r={r} due={r.due} /> : <Waiting r={r} />}
    </div>
  );
}

function Tables({ r, due }: { r: Running; due: Due }) {
  const words = text.live;
  const [open, setOpen] = useState("");
  const [walkIn, setWalkIn] = useState<{ name: string; covers: number } | null>(null);
  const tables = new Map<string, JoinDue[]>();
  for (const j of due.joins) tables.set(j.table, [...(tables.get(j.table) ?? []), j]);
  const list = [...tables.entries()].sort(([, a], [, b]) => soonest(a) - soonest(b));
  const off = due.off.map(
    (l) =>
      due.joins.flatMap((j) => j.parts).find((p) => p.component === l.component)?.what ??
      l.dish ??
      l.component,
  );
  return (
    <main>
      {off.length > 0 && (
        <p className="off-list">
          {words.offNowList} {off.join(", ")}
        </p>
      )}
      <ul className="tables">
        {list.map(([id, joins]) => {
          const next = joins.find((j) => j.standing !== "sent" && j.standing !== "skipped");
          const covers = r.service?.tables.find((t) => t.id === id)?.covers ?? 0;
          return (
            <li key={id}>
              <button
                type="button"
                aria-expanded={open === id}
                onClick={() => setOpen(open === id ? "" : id)}
              >
                <b>{joins[0]?.name}</b>
                <span>{next ? text.courses[next.course] : words.done}</span>
                <span className="figure">{next ? clock(next.forecast) : ""}</span>
              </button>
              {open === id && (
                <div className="inside">
                  <p className="quiet">
                    {joins.map((j) => (
                      <span key={joinKey(j)}>
                        {text.courses[j.course]}{" "}
                        {j.standing === "sent" ? text.fire.running.standings.sent : clock(j.forecast)}{" "}
                      </span>
                    ))}
                  </p>
                  <span className="presses">
                    <Button
                      onClick={() =>
                        r.tap(`${joins[0]?.name}: ${words.seated}`, {
                          kind: "seated",
                          table: id,
                          covers: Math.max(1, covers),
                          name: joins[0]?.name,
                        })
                      }
                    >
                      {words.seatedPress}
                    </Button>
                    {next && (
                      <Button
                        look="primary"
                        onClick={() =>
                          r.tap(`${next.name}: ${words.readyFor} ${text.courses[next.course]}`, {
                            kind: "next",
                            table: id,
                            course: next.course,
                            round: next.round,
                          })
                        }
                      >
                        {words.readyForPress}
                      </Button>
                    )}
                  </span>
                </div>
              )}
            </li>
          );
        })}
      </ul>
      {walkIn && (
        <form
          className="panel"
          onSubmit={(e) => {
            e.preventDefault();
            r.tap(`${walkIn.name}: ${words.seated}`, {
              kind: "seated",
              table: `walk-in-${walkIn.name.toLowerCase().replace(/[^a-z0-9]+/g, "-")}`,
              name: walkIn.name,
              covers: walkIn.covers,
            });
            setWalkIn(null);
          }}
        >
          <label>
            {words.tableName}
            <input
              className="form-control"
              name="walk-in-name"
              value={walkIn.name}
              onChange={(e) => setWalkIn({ ...walkIn, name: e.target.value })}
            />
          </label>
          <label>
            {words.covers}
            <input
              className="form-control"
              name="walk-in-covers"
              type="number"
              min={1}
              max={200}
              value={walkIn.covers}
              onChange={(e) => setWalkIn({ ...walkIn, covers: Math.max(1, Number(e.target.value)) })}
            />
          </label>
          <Button type="submit" look="primary" disabled={walkIn.name.trim() === ""}>
            {words.seatedPress}
          </Button>
        </form>
      )}
      <footer className="presses">
        <Button
          aria-expanded={walkIn !== null}
          onClick={() => setWalkIn(walkIn ? null : { name: "", covers: 2 })}
        >
          {words.walkIn}
        </Button>
        <Button disabled={!r.last} onClick={r.undo}>
          {words.undo}
        </Button>
      </footer>
    </main>
  );
}

const soonest = (list: JoinDue[]) =>
  Math.min(
    ...list
      .filter((j) => j.standing !== "sent" && j.standing !== "skipped")
      .map((j) => Date.parse(j.forecast)),
    Number.MAX_SAFE_INTEGER,
  );
