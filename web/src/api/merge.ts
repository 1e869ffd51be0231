// merge puts one person's change on top of what the thing has become meanwhile: what they
// changed from base is as they want it, everything else as it is now. Fields of objects are
// taken one by one, entries of lists by their id where they have one, else by their place
// while the lists are as long as they were.
export function merge<T>(base: T, mine: T, now: T): T {
  if (same(base, mine)) return now;
  if (same(base, now)) return mine;
  if (isList(base) && isList(mine) && isList(now)) return mergeLists(base, mine, now) as T;
  if (isThing(base) && isThing(mine) && isThing(now)) {
    const out: Record<string, unknown> = { ...now };
    for (const key of new Set([...Object.keys(base), ...Object.keys(mine)])) {
      if (same(base[key], mine[key])) continue;
      const v = merge(base[key], mine[key], now[key]);
      if (v === undefined) delete out[key];
      else out[key] = v;
    }
    return out as T;
  }
  return mine;
}

function mergeLists(base: unknown[], mine: unknown[], now: unknown[]): unknown[] {
  const ids = [base, mine, now].map((list) => list.map(idOf));
  if (ids.every((list) => list.every((id) => id !== "") && new Set(list).size === list.length)) {
    const [old, , present] = ids as [string[], string[], string[]];
    const at = (list: unknown[], id: string) => list.find((x) => idOf(x) === id);
    // In my order; what somebody added meanwhile comes behind, what they took out stays out.
    const out = mine
      .filter((x) => !old.includes(idOf(x)) || present.includes(idOf(x)) || !same(at(base, idOf(x)), x))
      .map((x) => {
        const was = at(base, idOf(x));
        const is = at(now, idOf(x));
        return was === undefined || is === undefined ? x : merge(was, x, is);
      });
    return [...out, ...now.filter((x) => !old.includes(idOf(x)) && at(mine, idOf(x)) === undefined)];
  }
  if (base.length === mine.length && base.length === now.length)
    return base.map((b, i) => merge(b, mine[i], now[i]));
  return mine;
}

const isList = (v: unknown): v is unknown[] => Array.isArray(v);
const isThing = (v: unknown): v is Record<string, unknown> =>
  typeof v === "object" && v !== null && !Array.isArray(v);
const idOf = (v: unknown): string => (isThing(v) && typeof v["id"] === "string" ? v["id"] : "");

// same compares by value; a field that is missing is the same as one that is undefined.
export function same(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (isList(a) && isList(b)) return a.length === b.length && a.every((x, i) => same(x, b[i]));
  if (isThing(a) && isThing(b))
    return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((k) => same(a[k], b[k]));
  return false;
}
