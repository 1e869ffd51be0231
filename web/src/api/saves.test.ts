import { describe, expect, it } from "vitest";
import { Problem } from "./problem";
import { collect } from "./outcome";
import { Saves, savesOf, type Held } from "./saves";

type Thing = { a: number; b: number };

// server answers in its time, and refuses what is made from another version than the newest.
function server(value: Thing) {
  const s = {
    version: 1,
    value,
    sent: [] as Thing[],
    fail: 0,
    send: async (version: number, mine: Thing): Promise<Held<Thing>> => {
      await new Promise((done) => setTimeout(done, 5));
      s.sent.push(mine);
      if (s.fail > 0) {
        s.fail--;
        throw new Problem(0, "offline");
      }
      if (version !== s.version) throw new Problem(409, "changed meanwhile");
      s.version++;
      s.value = mine;
      return { version: s.version, value: mine };
    },
  };
  return s;
}

const shown: Held<Thing> = { version: 1, value: { a: 1, b: 1 } };

describe("saves", () => {
  it("keeps both of two edits made from the same page", async () => {
    const s = server(shown.value);
    const saves = new Saves<Thing>();
    const one = saves.save(shown, { a: 2, b: 1 }, s.send);
    const two = saves.save(shown, { a: 1, b: 3 }, s.send);
    await Promise.all([one, two]);
    expect(s.value).toEqual({ a: 2, b: 3 });
    expect(s.version).toBe(3);
  });
  it("sends nothing that changes nothing", async () => {
    const s = server(shown.value);
    const saves = new Saves<Thing>();
    await saves.save(shown, { a: 1, b: 1 }, s.send);
    await saves.save(shown, { a: 2, b: 1 }, s.send);
    await saves.save(shown, { a: 2, b: 1 }, s.send);
    expect(s.sent).toEqual([{ a: 2, b: 1 }]);
  });
  it("goes on after one that failed, without it", async () => {
    const s = server(shown.value);
    s.fail = 1;
    const saves = new Saves<Thing>();
    const one = saves.save(shown, { a: 2, b: 1 }, s.send);
    const two = saves.save(shown, { a: 1, b: 3 }, s.send);
    await expect(one).rejects.toMatchObject({ status: 0 });
    await two;
    expect(s.value).toEqual({ a: 1, b: 3 });
  });
  it("does not write over somebody else's change", async () => {
    const s = server(shown.value);
    s.version = 4;
    const saves = new Saves<Thing>();
    await expect(saves.save(shown, { a: 2, b: 1 }, s.send)).rejects.toMatchObject({ status: 409 });
    // Shown anew, it goes.
    await saves.save({ version: 4, value: { a: 1, b: 9 } }, { a: 2, b: 9 }, s.send);
    expect(s.value).toEqual({ a: 2, b: 9 });
  });
  it("gives what runs in its turn the version that the save before it got", async () => {
    const s = server(shown.value);
    const saves = new Saves<Thing>();
    void saves.save(shown, { a: 2, b: 1 }, s.send);
    const seen: number[] = [];
    await saves.after(shown, (version) => {
      seen.push(version);
      return Promise.resolve({ version, value: s.value });
    });
    expect(seen).toEqual([2]);
  });
  it("has one queue for a thing", () => {
    expect(savesOf("dish/hake")).toBe(savesOf("dish/hake"));
    expect(savesOf("dish/hake")).not.toBe(savesOf("dish/cod"));
  });
  it("tells the field that began it how it ended", async () => {
    const s = server(shown.value);
    s.fail = 1;
    const saves = new Saves<Thing>();
    const quiet = (p: Promise<unknown>) => void p.catch(() => undefined);
    expect(await collect(() => quiet(saves.save(shown, { a: 5, b: 1 }, s.send)))).toMatchObject({
      status: 0,
    });
    expect(await collect(() => quiet(saves.save(shown, { a: 5, b: 1 }, s.send)))).toBeNull();
    expect(await collect(() => undefined)).toBeNull();
  });
});
