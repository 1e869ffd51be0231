import { useState } from "react";
import { joinKey, type Due, type JoinDue } from "../../api/live";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { clock } from "../../ui/time";
import { Head, Waiting } from "./Head";
import { nameOf } from "./OffPanel";
import { OrderPanel, useMenu } from "./OrderPanel";
import { bare } from "./orderLine";
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

// A table of the floor: its courses, or none while it has ordered nothing.
interface Row {
  id: string;
  name: string;
  covers: number;
  joins: JoinDue[];
}

function Tables({ r, due }: { r: Running; due: Due }) {
  const words = text.live;
  const [open, setOpen] = useState("");
  const [panel, setPanel] = useState<"" | "guests" | "with">("");
  const [ordering, setOrdering] = useState<string | null>(null);
  const [walkIn, setWalkIn] = useState<{ name: string; covers: number } | null>(null);
  const menu = useMenu(r.service?.id ?? "", due.plan).data;
  if (ordering !== null)
    return <OrderPanel r={r} table={ordering} pass={false} onClose={() => setOrdering(null)} />;
  const rows = new Map<string, Row>();
  for (const j of due.joins) {
    const row = rows.get(j.table) ?? { id: j.table, name: j.name, covers: 0, joins: [] };
    rows.set(j.table, { ...row, joins: [...row.joins, j] });
  }
  for (const t of menu?.tables ?? []) {
    const row = rows.get(t.id);
    if (row) row.covers = t.covers;
    else if (t.walked) rows.set(t.id, { id: t.id, name: t.name, covers: t.covers, joins: [] });
  }
  const list = [...rows.values()].sort((a, b) => soonest(a.joins) - soonest(b.joins));
  const off = due.off.map((l) => nameOf(due, l) + (l.left > 0 ? ` (${words.order.left(l.left)})` : ""));
  const show = (id: string) => {
    setOpen(open === id ? "" : id);
    setPanel("");
  };
  return (
    <main>
      {off.length > 0 && (
        <p className="off-list">
          {words.offNowList} {off.join(", ")}
        </p>
      )}
      <ul className="tables">
        {list.map((row) => (
          <li key={row.id}>
            <button type="button" aria-expanded={open === row.id} onClick={() => show(row.id)}>
              <b>{row.name}</b>
              <span>{standing(row)}</span>
              <span className="figure">{when(row)}</span>
            </button>
            {open === row.id && (
              <Inside
                r={r}
                row={row}
                others={list.filter((o) => o !== row)}
                panel={panel}
                setPanel={setPanel}
                onOrder={() => setOrdering(row.name)}
              />
            )}
          </li>
        ))}
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

const nextOf = (row: Row) => row.joins.find((j) => j.standing !== "sent" && j.standing !== "skipped");
const standing = (row: Row) => {
  const next = nextOf(row);
  if (row.joins.length === 0) return text.live.noOrder;
  return next ? text.courses[next.course] : text.live.done;
};
const when = (row: Row) => {
  const next = nextOf(row);
  return next ? clock(next.forecast) : "";
};

// Inside is what is said of a table: who came, what they order, whether they are ready for more.
function Inside({
  r,
  row,
  others,
  panel,
  setPanel,
  onOrder,
}: {
  r: Running;
  row: Row;
  others: Row[];
  panel: "" | "guests" | "with";
  setPanel: (p: "" | "guests" | "with") => void;
  onOrder: () => void;
}) {
  const words = text.live;
  const next = nextOf(row);
  const table = { table: row.id, name: row.name };
  const press = (p: "guests" | "with") => setPanel(panel === p ? "" : p);
  return (
    <div className="inside">
      <p className="quiet">
        {row.covers > 0 && <span>{words.guests(row.covers)} </span>}
        {row.joins.map((j) => (
          <span key={joinKey(j)}>
            {text.courses[j.course]}{" "}
            {j.standing === "sent" ? text.fire.running.standings.sent : clock(j.forecast)}{" "}
          </span>
        ))}
      </p>
      <span className="presses">
        <Button
          onClick={() =>
            r.tap(`${row.name}: ${words.seated}`, {
              kind: "seated",
              covers: Math.max(1, row.covers),
              ...table,
            })
          }
        >
          {words.seatedPress}
        </Button>
        <Button onClick={onOrder}>{words.orderPress}</Button>
        {next && (
          <Button
            look="primary"
            onClick={() =>
              r.tap(`${next.name}: ${words.readyFor} ${text.courses[next.course]}`, {
                kind: "next",
                table: row.id,
                course: next.course,
                round: next.round,
              })
            }
          >
            {words.readyForPress}
          </Button>
        )}
        <Button aria-expanded={panel === "guests"} onClick={() => press("guests")}>
          {words.covers}
        </Button>
        <Button aria-expanded={panel === "with"} onClick={() => press("with")}>
          {words.sitsWith}
        </Button>
      </span>
      {panel === "guests" && (
        <span className="presses numbers" role="group" aria-label={words.howManyGuests}>
          {numbers(row.covers).map((n) => (
            <Button
              key={n}
              onClick={() => {
                r.tap(`${row.name}: ${words.guests(n)}`, { kind: "guests", covers: n, ...table });
                setPanel("");
              }}
            >
              {n}
            </Button>
          ))}
        </span>
      )}
      {panel === "with" && (
        <span className="presses numbers" role="group" aria-label={words.sitsWith}>
          {[...others].sort(byName).map((o) => (
            <Button
              key={o.id}
              onClick={() => {
                r.tap(`${row.name} ${words.with} ${o.name}`, { kind: "joined", with: o.id, ...table });
                setPanel("");
              }}
            >
              {bare(o.name)}
            </Button>
          ))}
        </span>
      )}
    </div>
  );
}

const byName = (a: Row, b: Row) => a.name.localeCompare(b.name, undefined, { numeric: true });

// numbers are how many guests there may be now, around how many there were.
const numbers = (covers: number) =>
  Array.from({ length: 8 }, (_, i) => Math.max(1, covers - 3) + i).filter((n) => n !== covers);

const soonest = (list: JoinDue[]) =>
  Math.min(
    ...list
      .filter((j) => j.standing !== "sent" && j.standing !== "skipped")
      .map((j) => Date.parse(j.forecast)),
    Number.MAX_SAFE_INTEGER,
  );
