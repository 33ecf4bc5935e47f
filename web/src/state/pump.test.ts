import { expect, it } from "vitest";
import { Pump } from "./pump";

it("finishes what it began and then takes only the latest wish", async () => {
  const done: number[] = [];
  const gates: (() => void)[] = [];
  const pump = new Pump<number>(
    (wish) => new Promise((resolve) => gates.push(() => (done.push(wish), resolve()))),
    () => undefined,
  );
  [1, 2, 3].forEach((wish) => pump.want(wish));
  gates.shift()?.();
  await new Promise((resolve) => setTimeout(resolve));
  gates.shift()?.();
  await new Promise((resolve) => setTimeout(resolve));
  expect(done).toEqual([1, 3]);
});

it("goes on after a failure", async () => {
  const failures: unknown[] = [];
  const pump = new Pump<number>(
    (wish) => (wish === 1 ? Promise.reject(new Error("no")) : Promise.resolve()),
    (error) => failures.push(error),
  );
  pump.want(1);
  await new Promise((resolve) => setTimeout(resolve));
  pump.want(2);
  await new Promise((resolve) => setTimeout(resolve));
  expect(failures).toHaveLength(1);
});
