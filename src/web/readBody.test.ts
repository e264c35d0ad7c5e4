import { readBody } from "./readBody";

const limits = (most: number) => ({ most, pause: 1000, whole: 1000 });
async function* parts(...sizes: number[]) {
  for (const n of sizes) yield new Uint8Array(n).fill(n);
}
/** Sends a byte, waits, sends a byte. */
async function* drops(ms: number) {
  for (;;) {
    yield new Uint8Array(1);
    await new Promise((r) => setTimeout(r, ms));
  }
}

it("reads a body up to its limit, and stops at what is longer", async () => {
  expect(await readBody(parts(), limits(3))).toEqual({ ok: true, bytes: Buffer.alloc(0) });
  expect(await readBody(parts(1, 2), limits(3))).toEqual({ ok: true, bytes: Buffer.from([1, 2, 2]) });
  expect(await readBody(parts(1, 2, 1), limits(3))).toEqual({ ok: false, why: "too large" });
  let read = 0;
  async function* endless() {
    for (;;) {
      read++;
      yield new Uint8Array(10);
    }
  }
  expect(await readBody(endless(), limits(25))).toEqual({ ok: false, why: "too large" });
  expect(read).toBe(3);
});

it("leaves who pauses too long, and who never gets to the end by small drops", async () => {
  expect(await readBody(drops(200), { most: 100, pause: 30, whole: 10_000 })).toEqual({
    ok: false,
    why: "too slow",
  });
  const began = performance.now();
  expect(await readBody(drops(5), { most: 1e6, pause: 1000, whole: 80 })).toEqual({
    ok: false,
    why: "too slow",
  });
  expect(performance.now() - began).toBeLessThan(2000);
});

it("what breaks off in the middle is an error, not a body", async () => {
  async function* breaks() {
    yield new Uint8Array(3);
    throw new Error("gone");
  }
  await expect(readBody(breaks(), limits(10))).rejects.toThrow("gone");
});
