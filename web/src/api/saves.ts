import { merge, same } from "./merge";
import { watch } from "./outcome";

// Held is a thing with the version it has.
export interface Held<T> {
  version: number;
  value: T;
}

// Saves are the saves of one thing, one after another. Two edits made quickly after each
// other are both kept: the second is put on top of what the first has become, with the
// version that it got. Somebody else's change in between is still refused by the server,
// since the version comes from what is shown or from an answer, never from a fresh look.
export class Saves<T> {
  private tail: Promise<unknown> = Promise.resolve();
  private last: Held<T> | null = null;

  // save waits for the saves before it. from is what was shown when the edit was made, mine
  // what it is to be; send carries it to the server. A save that changes nothing sends
  // nothing.
  save(from: Held<T>, mine: T, send: (version: number, value: T) => Promise<Held<T>>): Promise<Held<T>> {
    const run = async () => {
      const now = this.last && this.last.version > from.version ? this.last : from;
      const value = merge(from.value, mine, now.value);
      if (same(value, now.value) && now.version > 0) return now;
      return (this.last = await send(now.version, value));
    };
    return this.inTurn(run);
  }

  // after runs something else that needs the newest version, in its turn.
  after(from: Held<T>, send: (version: number) => Promise<Held<T>>): Promise<Held<T>> {
    const run = async () => {
      const now = this.last && this.last.version > from.version ? this.last : from;
      return (this.last = await send(now.version));
    };
    return this.inTurn(run);
  }

  private inTurn(run: () => Promise<Held<T>>): Promise<Held<T>> {
    const done = this.tail.then(run, run);
    this.tail = done.catch(() => undefined);
    return watch(done);
  }
}

const all = new Map<string, Saves<unknown>>();

// savesOf are the saves of the thing with a key, such as dish/hake.
export function savesOf<T>(key: string): Saves<T> {
  let s = all.get(key);
  if (!s) all.set(key, (s = new Saves<unknown>()));
  return s as Saves<T>;
}
