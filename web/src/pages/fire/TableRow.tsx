import { memo, useRef, useState } from "react";
import { inMinutes, perMinute, xOf, type Axis, type TableJoins } from "../../charts/evening";
import { text } from "../../text";
import { JoinMark } from "./JoinMark";

// dragStep is by how many minutes a table moves at a time.
export const dragStep = 5;

// TableRow is one table along the clock: its courses on a line. The line and its marks
// are dragged to seat the table sooner or later; the arrow keys do the same on its name.
export const TableRow = memo(function TableRow({
  row,
  axis,
  y,
  height,
  chosen,
  shifted,
  onChoose,
  onMove,
}: {
  row: TableJoins;
  axis: Axis;
  y: number;
  height: number;
  chosen: string;
  shifted: number; // minutes that it was moved and is not planned yet
  onChoose: (join: string) => void;
  onMove: (table: string, minutes: number) => void;
}) {
  const start = useRef<number | null>(null);
  const [by, setBy] = useState(0);
  const middle = height / 2;
  const xs = row.joins.map((j) => xOf(axis, j.at));
  const first = row.joins[0];
  const from = first ? xOf(axis, first.fire_at) : 0;
  const dragging = by !== 0;
  const shift = (dragging ? by : shifted) * perMinute(axis);
  const end = (e: React.PointerEvent) => {
    if (start.current === null) return;
    const minutes = inMinutes(e.clientX - start.current, axis, dragStep);
    start.current = null;
    setBy(0);
    if (minutes !== 0) onMove(row.table, minutes);
  };
  return (
    <g
      className={dragging ? "table-row dragging" : "table-row"}
      data-row={row.table}
      transform={`translate(0 ${y})`}
      onPointerDown={(e) => {
        start.current = e.clientX;
        // What is not captured is lost when the pointer leaves the row.
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => {
        if (start.current === null) return;
        const minutes = inMinutes(e.clientX - start.current, axis, dragStep);
        if (minutes !== by) setBy(minutes);
      }}
      onPointerUp={(e) => {
        const pressed =
          start.current !== null && by === 0
            ? document
                .elementsFromPoint(e.clientX, e.clientY)
                .map((el) => el.closest("[data-join]")?.getAttribute("data-join"))
                .find(Boolean)
            : null;
        end(e);
        if (pressed) onChoose(pressed);
      }}
      onPointerCancel={() => {
        start.current = null;
        setBy(0);
      }}
    >
      <rect x={0} y={0} width={axis.width} height={height} fill="transparent" />
      <g transform={`translate(${shift} 0)`}>
        <line x1={from} x2={xs[xs.length - 1]} y1={middle} y2={middle} className="table-line" />
        {row.joins.map((j, i) => (
          <JoinMark
            key={j.id}
            join={j}
            x={xs[i] ?? 0}
            y={middle}
            r={Math.min(9, middle - 2)}
            chosen={j.id === chosen}
            faded={chosen !== "" && !row.joins.some((q) => q.id === chosen)}
            onChoose={() => onChoose(j.id)}
          />
        ))}
        {dragging && (
          <text x={from - 6} y={middle + 5} textAnchor="end" className="moved">
            {by > 0 ? "+" : "−"}
            {Math.abs(by)} {text.fire.min}
          </text>
        )}
      </g>
    </g>
  );
});
