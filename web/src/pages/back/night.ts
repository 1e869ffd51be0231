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

// standing is how a course came, in words.
export function standing(j: Join): string {
  const words = text.back;
  if (!j.sent_at) return words.never;
  if (Math.abs(j.late_s) < 30) return words.inTime;
  return j.late_s > 0 ? words.lateBy(j.late_s) : words.early(j.late_s);
}
