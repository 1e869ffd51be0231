// An order is one line, whether it is typed or pressed: a press writes into it what somebody would have typed. What it says the server
// reads.

const parts = /^(?:([^:]*):)?\s*(.*)$/;

// forTable is the line for a table: what was ordered stays.
export function forTable(line: string, name: string): string {
  return `${bare(name)}: ${parts.exec(line)?.[2] ?? ""}`;
}

// bare is a table by its number, where it has one.
export const bare = (name: string) => name.replace(/^table\s+(?=\d)/i, "");

// dish adds a plate of a dish: one more of the last that was pressed, or a new one behind it.
export function dish(line: string, word: string): string {
  const last = /(\d+) ([^\d]+?)\s*$/.exec(line);
  if (last && last[2] === word) return line.slice(0, last.index) + `${Number(last[1]) + 1} ${word}`;
  return behind(line, word);
}

// need says what one guest of the dish before it must not have, or wishes; pressed again, one more.
export const need = dish;

const behind = (line: string, word: string) => `${line.trimEnd()}${line.trim() === "" ? "" : " "}1 ${word}`;

// back takes away what was added last.
export function back(line: string): string {
  const [, table, said = ""] = parts.exec(line) ?? [];
  const head = table === undefined ? "" : `${table}: `;
  const last = /(\d+) ([^\d]+?)\s*$/.exec(said);
  if (!last) return said === "" ? "" : head;
  const n = Number(last[1]);
  return (head + said.slice(0, last.index) + (n > 1 ? `${n - 1} ${last[2]}` : ""))
    .trimEnd()
    .replace(/:$/, ": ");
}
