import { joinKey, type Due } from "../../api/live";
import { useHouse } from "../../api/queries";
import { text } from "../../text";
import { Swatch } from "../../ui/Swatch";
import { clock } from "../../ui/time";
import { Head, Waiting } from "./Head";
import { Ring } from "./Ring";
import { useRunning } from "./useService";

// ahead is how much of the evening the board shows, in milliseconds.
const ahead = 45 * 60_000;

// BoardPage hangs on a wall and is touched by nobody: the tables along the clock, what each section has before it, what is off.
export function BoardPage() {
  const r = useRunning();
  return (
    <div className="live board-screen">
      <Head r={r} title={text.live.board} under={r.service?.name ?? ""} />
      {r.due?.phase === "open" ? <Board due={r.due} now={r.now} /> : <Waiting r={r} />}
    </div>
  );
}

function Board({ due, now }: { due: Due; now: number }) {
  const house = useHouse();
  const words = text.live;
  const next = due.joins.filter(
    (j) => j.standing !== "sent" && j.standing !== "skipped" && Date.parse(j.forecast) - now < ahead,
  );
  // Rings that would touch stand on the next of three rows.
  const rows: number[] = [];
  const placed = next.map((j) => {
    const x = Math.max(0, (Date.parse(j.forecast) - now) / ahead);
    let row = rows.findIndex((end) => x - end > 0.085);
    if (row < 0) row = rows.length < 3 ? rows.length : rows.indexOf(Math.min(...rows));
    rows[row] = x;
    return { j, x, row };
  });
  const loads = due.sections.map((s) => ({
    s,
    section: house.data?.sections.find((x) => x.id === s.section),
    n: [s.now.length, s.on.length, s.next.length] as const,
  }));
  const most = Math.max(1, ...loads.map((l) => l.n[0] + l.n[1] + l.n[2]));
  const left = due.off.map(
    (l) =>
      due.joins.flatMap((j) => j.parts).find((p) => p.component === l.component)?.what ??
      l.dish ??
      l.component,
  );
  return (
    <main className="board">
      <div className="along">
        {[0, 10, 20, 30, 40].map((m) => (
          <span key={m} className="mark figure" style={{ left: `${(m / 45) * 90}%` }}>
            {m === 0 ? words.now : `+${m}`}
          </span>
        ))}
        {placed.map(({ j, x, row }) => (
          <div
            key={joinKey(j)}
            className="at"
            data-late={Date.parse(j.forecast) - Date.parse(j.at) > 60_000}
            style={{ left: `${x * 90}%`, top: `${34 + row * 126}px` }}
          >
            <Ring join={j} size={78} />
            <span className="figure">{clock(j.forecast)}</span>
            <small>{text.courses[j.course]}</small>
          </div>
        ))}
        {placed.length === 0 && <p className="waiting">{words.quietNow}</p>}
      </div>
      <ul className="loads">
        {loads.map(({ s, section, n }) => (
          <li key={s.section}>
            <span>
              <Swatch section={section} /> {section?.name ?? s.section}
            </span>
            <span className="bar" role="img" aria-label={words.load(n[0], n[1], n[2])}>
              {n.map((x, i) => (
                <i key={i} className={["now", "on", "next"][i]} style={{ width: `${(x / most) * 100}%` }} />
              ))}
            </span>
            <span className="figure quiet">{words.load(n[0], n[1], n[2])}</span>
          </li>
        ))}
      </ul>
      <p className="off-list">
        {left.length > 0 ? `${words.offNowList} ${left.join(", ")}` : words.nothingOff}
      </p>
    </main>
  );
}
