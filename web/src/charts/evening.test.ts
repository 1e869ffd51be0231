import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import {
  brief,
  byTable,
  inMinutes,
  pack,
  perMinute,
  placeJoins,
  profile,
  short,
  ticksOf,
  xOf,
  type Axis,
} from "./evening";

const at = (clock: string) => `2026-05-14T${clock}:00+02:00`;
// Two hours over 1,200 pixels: ten pixels a minute.
const axis: Axis = { from: Date.parse(at("18:00")), to: Date.parse(at("20:00")), width: 1200 };
const join = (table: string, clock: string) =>
  ({ id: `${table}/main`, table, name: `Table ${table}`, at: at(clock) }) as Schemas["EveningJoin"];
const run = (from: string, to: string, what = "Hake", hands = "both") =>
  ({ from: at(from), to: at(to), what, hands }) as Schemas["FireRun"];

describe("the axis of an evening", () => {
  it("is linear", () => {
    expect(xOf(axis, at("18:00"))).toBe(0);
    expect(xOf(axis, at("19:30"))).toBe(900);
    expect(perMinute(axis)).toBe(10);
    expect(inMinutes(52, axis, 1)).toBe(5);
    expect(inMinutes(52, axis, 5)).toBe(5);
    expect(inMinutes(-80, axis, 5)).toBe(-10);
  });
  it("has ticks at whole stretches of the hour by the clock on the wall", () => {
    const ticks = ticksOf(axis, at("18:00"));
    expect(ticks[0]).toEqual({ x: 0, label: "18:00" });
    expect(ticks[1]).toEqual({ x: 100, label: "18:10" });
    const odd: Axis = { ...axis, from: Date.parse(at("18:03")) };
    expect(ticksOf(odd, at("18:03"))[0]?.label).toBe("18:10");
    // Half an hour off the whole: India's clocks.
    expect(ticksOf({ ...axis, width: 60 }, "2026-05-14T21:30:00+05:30")[0]?.label).toBe("22:00");
  });
});

describe("joins", () => {
  it("are gathered by table, in the order in which they come", () => {
    const rows = byTable([join("2", "18:10"), join("1", "18:20"), join("2", "18:50")]);
    expect(rows.map((r) => [r.table, r.joins.length])).toEqual([
      ["2", 2],
      ["1", 1],
    ]);
  });
  it("go into the first row with room, and touch at exactly their size", () => {
    const apart = placeJoins([join("1", "18:00"), join("2", "18:04")], axis, 40);
    expect(apart.rows).toBe(1);
    const tight = placeJoins([join("1", "18:00"), join("2", "18:03"), join("3", "18:04")], axis, 40);
    expect(tight.placed.map((p) => p.row)).toEqual([0, 1, 0]);
    expect(placeJoins([], axis, 40).rows).toBe(1);
  });
});

describe("a load", () => {
  it("is drawn as steps from nothing to its capacity", () => {
    const d = profile(
      {
        capacity: 4,
        steps: [
          { at: at("18:00"), units: 4 },
          { at: at("18:10"), units: 1 },
          { at: at("18:20"), units: 0 },
        ],
      },
      axis,
      40,
    );
    expect(d).toBe("M0.0 40L0.0 0.0L100.0 0.0L100.0 30.0L200.0 30.0L200.0 40.0Z");
    expect(profile({ capacity: 4, steps: [] }, axis, 40)).toBe("");
  });
});

describe("runs in a lane", () => {
  it("take as few tracks as they need", () => {
    const { packed, tracks } = pack(
      [run("18:10", "18:20"), run("18:00", "18:09"), run("18:05", "18:30")],
      axis,
      () => "",
    );
    expect(tracks).toBe(2);
    expect(packed.map((p) => p.track)).toEqual([0, 1, 0]); // by their beginning
  });
  it("keep room for a label that does not fit inside", () => {
    const label = () => "Cider butter sauce";
    const after = pack([run("18:00", "18:01"), run("18:05", "18:06")], axis, label);
    expect(after.packed[0]?.inside).toBe(false);
    expect(after.tracks).toBe(2);
    const inside = pack([run("18:00", "18:20"), run("18:21", "18:41")], axis, label);
    expect(inside.packed[0]?.inside).toBe(true);
    expect(inside.tracks).toBe(1);
    // What nobody stands at is too thin to be written into.
    expect(pack([run("18:00", "18:20", "x", "none")], axis, label).packed[0]?.inside).toBe(false);
  });
});

describe("names where there is little room", () => {
  it.each([
    ["Table 12", "12"],
    ["Bar", "Ba"],
  ])("%s is %s", (name, said) => expect(short(name)).toBe(said));
  it.each([
    ["Cider butter sauce", "Cider butter"],
    ["Hake, roasted", "Hake"],
    ["Barley with herbs", "Barley"],
    ["Sea beet and more", "Sea beet"],
  ])("%s is %s", (name, said) => expect(brief(name)).toBe(said));
});
