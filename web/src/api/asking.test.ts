import { QueryObserver } from "@tanstack/react-query";
import { expect, it } from "vitest";
import { Asking } from "./asking";

// kitchen answers with what stands when it is asked, whenever that comes.
function kitchen(queries: Asking) {
  const k = {
    stands: "as written",
    asked: 0,
    answer: [] as (() => void)[],
    shown: () => "",
    leave: () => {},
  };
  const o = new QueryObserver(queries, {
    queryKey: ["plate", "turnip"],
    queryFn: () => {
      const now = k.stands;
      k.asked++;
      return new Promise<string>((tell) => k.answer.push(() => tell(now)));
    },
  });
  k.leave = o.subscribe(() => {});
  k.shown = () => o.getCurrentResult().data ?? "";
  return k;
}

const turn = () => new Promise((go) => setTimeout(go, 0));

it("asks again after a first answer that was on its way when something changed", async () => {
  const queries = new Asking();
  const k = kitchen(queries);
  k.stands = "left out";
  const told = queries.invalidateQueries({ queryKey: ["plate"] });
  await turn();
  expect(k.asked).toBe(1);
  k.answer[0]?.();
  await turn();
  expect(k.asked).toBe(2);
  k.answer[1]?.();
  await told;
  expect(k.shown()).toBe("left out");
  k.leave();
});

it("asks once where nothing was on its way, and at once where an older answer is shown", async () => {
  const queries = new Asking();
  const k = kitchen(queries);
  k.answer[0]?.();
  await turn();
  expect(k.shown()).toBe("as written");
  void queries.invalidateQueries({ queryKey: ["plate"] });
  await turn();
  expect(k.asked).toBe(2);
  k.stands = "left out";
  void queries.invalidateQueries({ queryKey: ["plate"] });
  await turn();
  expect(k.asked).toBe(3);
  k.answer[1]?.();
  k.answer[2]?.();
  await turn();
  expect(k.shown()).toBe("left out");
  await turn();
  expect(k.asked).toBe(3);
  k.leave();
});

it("keeps what was put in its place over an older answer", async () => {
  const queries = new Asking();
  const k = kitchen(queries);
  k.answer[0]?.();
  await turn();
  void queries.invalidateQueries({ queryKey: ["plate"] });
  await turn();
  k.stands = "left out";
  queries.setQueryData(["plate", "turnip"], "left out");
  k.answer[1]?.();
  await turn();
  expect(k.shown()).toBe("left out");
  k.answer[2]?.();
  await turn();
  expect(k.shown()).toBe("left out");
  expect(k.asked).toBe(3);
  queries.setQueryData(["plate", "turnip"], "changed");
  await turn();
  expect(k.asked).toBe(3);
  k.leave();
});
