import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, settle, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { text } from "../../text";
import { Button } from "../../ui/Button";
import { back, bare, dish, forTable, need } from "./orderLine";
import type { Running } from "./useService";

type Read = Schemas["OrderRead"];

// pause is how long after the last key an order is read, in milliseconds.
const pause = 150;

// useMenu is what can be ordered, as it is now.
export function useMenu(service: string, plan: number) {
  return useQuery({
    queryKey: keys.menu(service, plan),
    queryFn: () => settle(api.GET("/api/services/{id}/menu", { params: { path: { id: service } } })),
    enabled: service !== "",
    placeholderData: keepPreviousData,
    refetchInterval: 15_000,
  });
}

// OrderPanel takes an order: typed in one line, or pressed. What was understood stands beside it before it is sent.
export function OrderPanel({
  r,
  table,
  pass,
  onClose,
}: {
  r: Running;
  table: string;
  pass: boolean; // the pass may order otherwise what is being cooked
  onClose: () => void;
}) {
  const words = text.live.order;
  const id = r.service?.id ?? "";
  const menu = useMenu(id, r.due?.plan ?? 0).data;
  const [line, setLine] = useState(table ? forTable("", table) : "");
  const [asked, setAsked] = useState(line);
  useEffect(() => {
    const t = window.setTimeout(() => setAsked(line), pause);
    return () => window.clearTimeout(t);
  }, [line]);
  const said = asked.trim();
  const reading = useQuery({
    queryKey: keys.order(id, said),
    queryFn: () =>
      settle(api.POST("/api/services/{id}/order", { params: { path: { id } }, body: { line: said } })),
    enabled: id !== "" && /[a-z]/i.test(said),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const read = /[a-z]/i.test(said) ? reading.data : undefined;
  const whose = menu?.tables.find((t) => t.id === read?.table);
  const [course, setCourse] = useState("");
  const next =
    menu?.courses.find((c) => c.course === course) ??
    menu?.courses.find((c) => !whose?.ordered.includes(c.course) && !whose?.sent.includes(c.course)) ??
    menu?.courses[0];
  const current = asked === line && !reading.isFetching;
  const ready =
    read !== undefined && read.table !== "" && read.wrong.length === 0 && read.courses.length > 0 && current;
  const cooking = read?.courses.some((c) => c.cooking) ?? false;
  const send = () => {
    if (!ready || (cooking && !pass)) return;
    if (read.new)
      r.tap(`${read.name}: ${text.live.seated}`, {
        kind: "seated",
        table: read.table,
        name: read.name,
        covers: Math.max(...read.courses.map((c) => c.count)),
      });
    for (const c of read.courses)
      r.tap(`${read.name}: ${inWords(c)}`, {
        kind: "ordered",
        table: read.table,
        name: read.name,
        course: c.course,
        ...(c.cooking ? { anyway: true } : {}),
        plates: c.plates.map(({ dish, variant, doneness, count, without, diets }) => ({
          dish,
          variant,
          doneness,
          count,
          without,
          diets,
        })),
      });
    onClose();
  };
  return (
    <form
      className="order"
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
      onKeyDown={(e) => {
        if (e.key === "Escape") onClose();
      }}
    >
      <label className="line">
        {words.line}
        <input
          className="form-control"
          name="order"
          autoFocus={pass}
          autoComplete="off"
          spellCheck={false}
          placeholder={words.example}
          value={line}
          onChange={(e) => setLine(e.target.value)}
        />
      </label>
      <div className="chosen tables-of" role="group" aria-label={words.tables} hidden={table !== ""}>
        {menu?.tables
          .filter((t) => menu.courses.some((c) => !t.sent.includes(c.course)))
          .map((t) => (
            <button
              key={t.id}
              type="button"
              aria-pressed={t.id === read?.table || forTable("", t.name) === line}
              onClick={() => setLine(forTable(line, t.name))}
            >
              {bare(t.name)}
              <small>{t.covers > 0 ? t.covers : ""}</small>
            </button>
          ))}
      </div>
      <div className="chosen" role="group" aria-label={words.courses}>
        {menu?.courses.map((c) => (
          <button key={c.course} type="button" aria-pressed={c === next} onClick={() => setCourse(c.course)}>
            {text.courses[c.course]}
          </button>
        ))}
      </div>
      <div className="servable" role="group" aria-label={next ? text.courses[next.course] : words.dishes}>
        {next?.dishes.map((d) => (
          <button
            key={d.dish}
            type="button"
            className={d.off ? "is-off" : undefined}
            onClick={() => setLine(dish(line, d.word))}
          >
            {d.name}
            {d.off ? (
              <small>{words.isOff(d.off)}</small>
            ) : (
              d.left !== undefined && <small>{words.left(d.left)}</small>
            )}
          </button>
        ))}
      </div>
      <div className="needs-of" role="group" aria-label={words.needs}>
        {[...(menu?.wishes ?? []), ...(menu?.needs ?? [])].slice(0, 10).map((n) => (
          <button key={n} type="button" onClick={() => setLine(need(line, n))}>
            {n}
          </button>
        ))}
      </div>
      <Understood
        read={read}
        line={line}
        wrong={reading.isError || r.alone ? words.noLine : ""}
        pass={pass}
      />
      <footer className="presses">
        <Button onClick={onClose}>{words.close}</Button>
        <Button disabled={line === ""} onClick={() => setLine(back(line))}>
          {words.back}
        </Button>
        <Button type="submit" look="primary" disabled={!ready || (cooking && !pass)}>
          {cooking && pass ? words.anyway : words.send}
        </Button>
      </footer>
    </form>
  );
}

const inWords = (c: Schemas["OrderedCourse"]) => c.plates.map((p) => `${p.count} ${p.said}`).join(", ");

// Understood is an order as the server read it.
function Understood({
  read,
  line,
  wrong,
  pass,
}: {
  read: Read | undefined;
  line: string;
  wrong: string;
  pass: boolean;
}) {
  const words = text.live.order;
  return (
    <div className="understood" aria-live="polite">
      {wrong && <p className="late">▲ {wrong}</p>}
      {!read && !wrong && <p className="quiet">{line === "" ? words.first : words.thenDishes}</p>}
      {read && (
        <>
          <h2>
            {read.name || words.whose}
            {read.new && <small>{words.walkIn}</small>}
          </h2>
          {read.courses.map((c) => (
            <div key={c.course}>
              <p className="quiet">
                {text.courses[c.course]}
                {read.covers > 0 && c.count !== read.covers && ` · ${words.of(c.count, read.covers)}`}
              </p>
              <ul>
                {c.plates.map((p) => (
                  <li key={p.said + (p.variant ?? "")}>
                    <b className="figure">{p.count}</b> {p.said}
                    {p.variant && p.variant !== "" && (
                      <span className="quiet"> {words.variant(p.variant)}</span>
                    )}
                    {p.told.map((m) => (
                      <span key={m.text} className="told">
                        ▲ {m.text}
                      </span>
                    ))}
                  </li>
                ))}
              </ul>
              {c.cooking && <p className="late">▲ {pass ? words.cooking : words.cookingFloor}</p>}
            </div>
          ))}
          {read.wrong.map((m) => (
            <p key={m.text} className="late">
              ▲ {m.text}
            </p>
          ))}
        </>
      )}
    </div>
  );
}
