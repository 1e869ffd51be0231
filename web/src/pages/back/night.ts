import type { Schemas } from "../../api/client";
import { text } from "../../text";

export type Night = Schemas["NightView"];
export type Join = Schemas["RealJoin"];

// seconds is an instant as seconds of the evening.
export const seconds = (n: Night, at: string) => (Date.parse(at) - Date.parse(n.origin)) / 1000;

// shown are the half hours from the first course of some evenings to the last.
export function shown(list: readonly Night[]): [number, number] {
  const all = list.flatMap((n) =>
    n.joins.flatMap((j) => [seconds(n, j.wanted_at), seconds(n, j.sent_at ?? j.wanted_at)]),
  );
  return [
    Math.floor((Math.min(...all) - 60) / 1800) * 1800,
    Math.ceil((Math.max(...all) + 60) / 1800) * 1800,
  ];
}

// off is by how many seconds something was off, in words; in time within some.
export function off(late: number, within: number): string {
  if (Math.abs(late) < within) return text.back.inTime;
  return late > 0 ? text.back.lateBy(late) : text.back.early(late);
}

// standing is how a course came, in words.
export const standing = (j: Join): string => (j.sent_at ? off(j.late_s, 30) : text.back.never);
