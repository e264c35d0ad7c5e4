import fc from "fast-check";
import { Pace, Slots } from "./pace";

it("lets a burst through, then as many as come back by and by, and says when", () => {
  const pace = new Pace({ burst: 3, perSecond: 2 });
  expect([1, 2, 3].map(() => pace.take("a", 0))).toEqual([0, 0, 0]);
  expect(pace.take("a", 0)).toBe(1);
  expect(pace.take("b", 0)).toBe(0);
  expect(pace.take("a", 499)).toBe(1);
  expect(pace.take("a", 500)).toBe(0);
  expect(pace.take("a", 500)).toBe(1);
  expect([1, 2, 3, 4].map(() => pace.take("a", 60_000))).toEqual([0, 0, 0, 1]);
});

it("never lets more through in any stretch of time than a burst and what comes back in it", () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 0, max: 400 }), { maxLength: 200 }),
      fc.integer({ min: 1, max: 8 }),
      fc.integer({ min: 1, max: 9 }),
      (waits, burst, perSecond) => {
        const pace = new Pace({ burst, perSecond });
        const through: number[] = [];
        let now = 0;
        for (const w of waits) {
          now += w;
          const wait = pace.take("x", now);
          if (wait === 0) through.push(now);
          // Whoever waits as told gets through.
          else expect(new Pace({ burst, perSecond }).take("y", now + wait * 1000)).toBe(0);
        }
        for (let i = 0; i < through.length; i++)
          for (let k = i; k < through.length; k++)
            expect(k - i + 1).toBeLessThanOrEqual(
              burst + ((through[k]! - through[i]!) / 1000) * perSecond + 1e-6,
            );
      },
    ),
  );
});

it("forgets whom it has not seen longest, and so stays small", () => {
  const pace = new Pace({ burst: 1, perSecond: 0.001 }, 2);
  expect(["a", "b", "a"].map((n) => pace.take(n, 0))).toEqual([0, 0, 1000]);
  pace.take("c", 0);
  expect(pace.take("a", 0)).toBe(1000);
});

it("slots are few for one, few in all, and come back once", () => {
  const slots = new Slots(2, 3);
  const [a, b] = [slots.take("a")!, slots.take("a")!];
  expect(slots.take("a")).toBeNull();
  const c = slots.take("c")!;
  expect(slots.take("d")).toBeNull();
  a();
  a();
  expect(slots.take("d")).not.toBeNull();
  expect(slots.take("e")).toBeNull();
  b();
  c();
  expect(slots.take("a")).not.toBeNull();
  expect(slots.take("a")).not.toBeNull();
});
