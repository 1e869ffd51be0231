import { describe, expect, it } from "vitest";
import contract from "./openapi.json";
import { patienceFor } from "./patience";

const long = [
  "/api/plan",
  "/api/plating-line",
  "/api/demo",
  "/api/demo/clock",
  "/api/prep",
  "/api/prep/mends",
  "/api/fire/{id}",
  "/api/fire/{id}/again",
  "/api/fire/{id}/mends",
  "/api/meals/{id}/plan",
  "/api/practices",
  "/api/practices/{id}",
  "/api/services/{id}/due",
  "/api/services/{id}/rehearsal",
  "/api/services/{id}/gate",
  "/api/lookback/{id}",
  "/api/lookback/steps/{id}/{step}",
  "/api/safety/log",
];
const short = [
  "/api/meals",
  "/api/meals/{id}",
  "/api/kitchen",
  "/api/dishes/{id}",
  "/api/dishes/{id}/plate",
  "/api/services/{id}/events",
  "/api/lookback",
  "/api/stock",
];

describe("how long an answer is waited for", () => {
  it("is longer where a plan is worked out first", () => {
    for (const path of long) expect(patienceFor(path.replace("{id}", "plan")), path).toBe(120_000);
    for (const path of short) expect(patienceFor(path.replace("{id}", "plan")), path).toBe(15_000);
  });
  it("is asked of paths that there are", () => {
    for (const path of [...long, ...short]) expect(Object.keys(contract.paths), path).toContain(path);
  });
});
