import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { api, settle } from "../../api/client";
import { keys } from "../../api/keys";
import { useHouse } from "../../api/queries";
import { Empty, Failed } from "../../app/Empty";
import { text } from "../../text";
import { NotesHere } from "../back/Notes";
import { Button } from "../../ui/Button";
import { Waiting } from "../../ui/Waiting";
import { Faulty } from "../../ui/fields";
import { useServices } from "../prep/usePrep";
import { joinKey, LiveJoins, useLive } from "../../api/live";
import { Chart } from "./Chart";
import { OneJoin } from "./OneJoin";
import { PlanLine } from "./PlanLine";
import { Rounds } from "./Rounds";
import { Running } from "./Running";
import { Side } from "./Side";
import { useServiceChange } from "./useServiceChange";

type Depth = "evening" | "close" | "table";

// FirePage is a whole service at three depths: the evening, forty minutes of it, and one
// table with its strands; what does not fit and what would help beside it.
export function FirePage() {
  const house = useHouse();
  const services = useServices();
  const [params, setParams] = useSearchParams();
  const open = services.data?.filter((s) => !s.over) ?? [];
  const id = params.get("service") ?? open[0]?.service.id ?? "";
  const mend = params.get("mend") ?? "";
  const chosen = params.get("join") ?? "";
  const asked = params.get("depth");
  // The line of the day leads here: forty minutes around the time that was pressed.
  const at = params.get("at") ?? "";
  const depth: Depth =
    asked === "close" || (asked === "table" && chosen !== "")
      ? asked
      : asked === null && at !== ""
        ? "close"
        : "evening";
  const [zoom, setZoom] = useState(1);
  const middle = useRef(0);
  const came = useRef<Depth>("evening"); // from where the table was looked at
  const { change, moveTable, problem } = useServiceChange(open.find((s) => s.service.id === id));
  const set = (changes: Record<string, string>) => {
    const next = new URLSearchParams(params);
    for (const [k, v] of Object.entries(changes)) {
      if (v) next.set(k, v);
      else next.delete(k);
    }
    setParams(next, { replace: true });
  };
  const plan = useQuery({
    queryKey: keys.fire(id, mend),
    queryFn: () =>
      settle(api.GET("/api/fire/{id}", { params: { path: { id }, query: { mend: mend || undefined } } })),
    enabled: id !== "",
    placeholderData: (old) => old,
    refetchInterval: (q) => (q.state.data?.better || q.state.data?.offer?.said.key === "" ? 1500 : 20_000),
  });
  const live = useLive(mend === "" ? id : "");
  const stands = useMemo(
    () => new Map(live.due?.phase === "open" ? live.due.joins.map((j) => [joinKey(j), j]) : []),
    [live.due],
  );
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && e.target.closest("input, select, textarea");
      if (typing || (e.key !== "+" && e.key !== "-")) return;
      setZoom((z) => zoomed(z, e.key === "+", depth));
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, [depth]);
  if (house.data?.empty) return <Empty />;
  if (!house.data || !services.data) return null;
  if (id === "")
    return (
      <div className="empty card-enamel">
        <h1>{text.screens.fire}</h1>
        <p>{text.fire.none}</p>
        <Link className="btn btn-primary" to="/prep/services">
          {text.prep.services}
        </Link>
      </div>
    );
  if (plan.error && !plan.data) return <Failed error={plan.error} retry={() => void plan.refetch()} />;
  const p = plan.data;
  const centre = p && at ? Date.parse(`${p.from.slice(0, 10)}T${at}:00${p.from.slice(19)}`) : 0;
  const goTo = (d: Depth) => {
    if (depth !== "table") came.current = depth;
    setZoom(1);
    set({ depth: d === "evening" ? "" : d, at: "" });
  };
  const service = open.find((s) => s.service.id === id)?.service;
  return (
    <article className="fire">
      <header>
        <div className="variants" role="group" aria-label={text.prep.services}>
          {open.map((s) => (
            <Button
              key={s.service.id}
              look={s.service.id === id ? "primary" : "outline-primary"}
              aria-pressed={s.service.id === id}
              onClick={() => set({ service: s.service.id, mend: "", join: "" })}
            >
              {s.service.name}
            </Button>
          ))}
        </div>
        <div className="variants" role="group" aria-label={text.fire.depth}>
          {(["evening", "close", "table"] as const).map((d) => (
            <Button
              key={d}
              look={d === depth ? "primary" : "outline-primary"}
              aria-pressed={d === depth}
              disabled={d === "table" && !chosen}
              onClick={() => goTo(d)}
            >
              {text.fire.depths[d]}
            </Button>
          ))}
          <Button
            aria-label={text.fire.closer}
            onClick={() => setZoom((z) => zoomed(z, true, depth))}
            disabled={depth === "table"}
          >
            +
          </Button>
          <Button
            aria-label={text.fire.further}
            onClick={() => setZoom((z) => zoomed(z, false, depth))}
            disabled={depth === "table"}
          >
            −
          </Button>
        </div>
        <div className="variants">
          <Link className="btn btn-outline-primary" to={`/prep/services?open=${id}`}>
            {text.house.change}
          </Link>
          <Link className="btn btn-outline-primary" to={`/fire/rehearse?service=${id}`}>
            {text.rehearse.title}
          </Link>
          <Link className="btn btn-outline-primary" to={`/fire/sheet?service=${id}`}>
            {text.fire.sheet}
          </Link>
          <a className="btn btn-outline-primary" href={`/api/fire/${id}/files/workload.json`}>
            {text.fire.workload}
          </a>
          <a className="btn btn-outline-primary" href={`/api/fire/${id}/files/schedule.json`}>
            {text.fire.schedule}
          </a>
        </div>
      </header>
      {!p && (
        <p className="lead-line" role="status">
          {text.workingItOut}
        </p>
      )}
      {p && (
        <Waiting on={plan.isPlaceholderData}>
          <PlanLine plan={p} id={id} mend={mend} />
          {p.said.key && (
            <p className="said-line" aria-live="polite">
              {p.said.text}
            </p>
          )}
          <Faulty problem={problem} />
          <NotesHere where={{ for: id }} />
          {p.joins.length > 0 && (
            <LiveJoins value={stands}>
              <div className="fire-body">
                <div className="fire-main">
                  {depth === "table" ? (
                    <OneJoin
                      plan={p}
                      id={id}
                      mend={mend}
                      join={chosen}
                      house={house.data}
                      onChoose={(j) => set({ join: j })}
                      onClose={() => goTo(came.current)}
                    />
                  ) : (
                    <Chart
                      plan={p}
                      house={house.data}
                      tables={service?.tables ?? []}
                      chosen={chosen}
                      close={depth === "close"}
                      zoom={zoom}
                      centre={centre}
                      middle={() => middle.current}
                      onMiddle={(ms) => (middle.current = ms)}
                      onChoose={(j) => (j === chosen ? goTo("table") : set({ join: j }))}
                      onMove={moveTable}
                    />
                  )}
                  {service?.kind === "banquet" && (
                    <Rounds plan={p} chosen={chosen} onChoose={(j) => set({ join: j })} />
                  )}
                </div>
                <Side
                  plan={p}
                  id={id}
                  mend={mend}
                  chosen={chosen}
                  onTry={(m) => set({ mend: m })}
                  onChoose={(j) => set({ join: j })}
                  onLook={depth === "table" ? undefined : () => goTo("table")}
                  onMargin={(margin) => void change((s) => ({ ...s, margin }))}
                  goesOn={live.due?.phase === "open" || p.begun}
                  running={
                    live.due && (
                      <Running
                        plan={p}
                        id={id}
                        due={live.due}
                        alone={live.alone}
                        chosen={chosen}
                        onChoose={(j) => set({ join: j })}
                      />
                    )
                  }
                />
              </div>
            </LiveJoins>
          )}
          {p.joins.length === 0 && <p className="quiet">{text.fire.empty}</p>}
        </Waiting>
      )}
    </article>
  );
}

const zoomed = (z: number, closer: boolean, depth: Depth) =>
  Math.min(6, Math.max(depth === "evening" ? 1 : 0.3, closer ? z * 1.5 : z / 1.5));
