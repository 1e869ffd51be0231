import type { Schemas } from "../../api/client";
import { text } from "../../text";
import { clock } from "../../ui/time";

type Curve = Schemas["ProbeCurve"];

// Probes are what thermometers measured in an evening, each beside the core that was wanted.
export function Probes({ list }: { list: readonly Curve[] }) {
  return (
    <section className="card-enamel">
      <h2>{text.back.probes}</h2>
      <ul className="probes">
        {list.map((p) => (
          <li key={p.task}>
            <b>
              {p.what} · {p.act}
            </b>
            <CurveOf p={p} />
            <small className="figure quiet">{text.back.probed(...ends(p))}</small>
          </li>
        ))}
      </ul>
      <p className="quiet">{text.back.probesNote}</p>
    </section>
  );
}

function ends(p: Curve): [string, string, string, string, number | undefined] {
  const first = p.readings[0];
  const last = p.readings.at(-1);
  return [
    clock(first?.at ?? ""),
    (first?.celsius ?? 0).toFixed(0),
    clock(last?.at ?? ""),
    (last?.celsius ?? 0).toFixed(0),
    p.target_c,
  ];
}

function CurveOf({ p }: { p: Curve }) {
  const [width, height, left, bottom] = [260, 110, 34, 20];
  const at = (t: string | undefined) => Date.parse(t ?? "");
  const from = Math.min(at(p.fired_at ?? p.readings[0]?.at), at(p.readings[0]?.at));
  const to = Math.max(at(p.readings.at(-1)?.at), p.ready_at ? at(p.ready_at) : 0, from + 60_000);
  const warm = p.readings.map((r) => r.celsius);
  const low = Math.floor((Math.min(...warm, p.target_c ?? 999) - 3) / 5) * 5;
  const high = Math.ceil((Math.max(...warm, p.target_c ?? -99) + 3) / 5) * 5;
  const x = (t: number) => left + ((t - from) / (to - from)) * (width - left - 10);
  const y = (c: number) => 8 + (1 - (c - low) / (high - low)) * (height - bottom - 8);
  const line = p.readings.map((r) => `${x(at(r.at)).toFixed(1)},${y(r.celsius).toFixed(1)}`).join(" ");
  return (
    <svg viewBox={`0 0 ${width} ${height}`} width="100%" role="img" aria-label={text.back.probed(...ends(p))}>
      {[low, high].map((c) => (
        <text key={c} x={left - 6} y={y(c) + 4} textAnchor="end">
          {c}°
        </text>
      ))}
      <line x1={left} x2={width - 10} y1={height - bottom} y2={height - bottom} className="base" />
      {p.target_c !== undefined && (
        <>
          <line x1={left} x2={width - 10} y1={y(p.target_c)} y2={y(p.target_c)} className="wanted" />
          <text x={width - 10} y={y(p.target_c) - 4} textAnchor="end">
            {p.target_c}°
          </text>
        </>
      )}
      <polyline points={line} className="measured" />
      {p.ready_at && (
        <line x1={x(at(p.ready_at))} x2={x(at(p.ready_at))} y1={8} y2={height - bottom} className="done" />
      )}
      <text x={left} y={height - 4}>
        {clock(p.readings[0]?.at ?? "")}
      </text>
      <text x={width - 10} y={height - 4} textAnchor="end">
        {clock(p.readings.at(-1)?.at ?? "")}
      </text>
    </svg>
  );
}
