import type { ReactNode } from "react";

// Table has what a row is about in its first column, and figures in the others.
export function Table({ columns, rows }: { columns: readonly string[]; rows: readonly ReactNode[][] }) {
  return (
    <table className="table">
      <thead>
        <tr>
          {columns.map((c) => (
            <th key={c} scope="col">
              {c}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(([about, ...figures], i) => (
          <tr key={i}>
            <th scope="row">{about}</th>
            {figures.map((f, k) => (
              <td key={k} className="figure">
                {f}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
