import { SaveQueue, type SaveResult } from "./saveQueue";

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

/** A queue whose sends end as the test says. */
function sending() {
  const sent: string[] = [];
  const ends: ((r: SaveResult | Error) => void)[] = [];
  const queue = new SaveQueue<string>({
    waitMs: 100,
    retryMs: 1000,
    join: (a, b) => a + b,
    save(work) {
      sent.push(work);
      return new Promise((resolve, reject) =>
        ends.push((r) => (r instanceof Error ? reject(r) : resolve(r))),
      );
    },
  });
  const end = async (r: SaveResult | Error) => {
    ends.shift()!(r);
    await jest.advanceTimersByTimeAsync(0);
  };
  return { queue, sent, end, ends, wait: (ms: number) => jest.advanceTimersByTimeAsync(ms) };
}

it("what failed goes before what came since, in one piece", async () => {
  const s = sending();
  s.queue.add("a");
  await s.wait(100);
  s.queue.add("b");
  await s.end(new Error("no connection"));
  await s.wait(1000);
  expect(s.sent).toEqual(["a", "ab"]);
  await s.end("saved");
  expect(s.queue.idle).toBe(true);
});

it("gives up what waits behind something that was refused for good, and takes new work after it", async () => {
  const s = sending();
  s.queue.add("a");
  await s.wait(100);
  s.queue.add("b");
  await s.end("dropped");
  await s.wait(5000);
  expect(s.sent).toEqual(["a"]);
  s.queue.add("c");
  await s.wait(100);
  expect(s.sent).toEqual(["a", "c"]);
});

it("overtakes what is under way only when told to", async () => {
  const s = sending();
  s.queue.add("a");
  await s.wait(100);
  s.queue.add("b");
  await s.queue.flush();
  expect(s.sent).toEqual(["a"]);
  void s.queue.flush(true);
  expect(s.sent).toEqual(["a", "b"]);
});

it("loses nothing and changes no order, whatever fails when (300 random runs)", async () => {
  let seed = 5;
  const below = (n: number) => (seed = (seed * 48271) % 2147483647) % n;
  for (let run = 0; run < 300; run++) {
    const s = sending();
    let typed = "";
    let kept = "";
    for (let i = 0; i < 25; i++) {
      const deed = below(4);
      if (deed === 0) {
        const letter = String.fromCharCode(97 + (i % 26));
        typed += letter;
        s.queue.add(letter);
      } else if (deed === 1) await s.wait(below(1500));
      else if (deed === 2) void s.queue.flush();
      else if (s.ends.length > 0) {
        const fine = below(2) === 0;
        if (fine) kept += s.sent.at(-1)!;
        await s.end(fine ? "saved" : "later");
      }
      expect(s.ends.length).toBeLessThanOrEqual(1);
    }
    while (!s.queue.idle) {
      if (s.ends.length === 0) await s.wait(1000);
      if (s.ends.length > 0) {
        kept += s.sent.at(-1)!;
        await s.end("saved");
      }
    }
    expect(kept).toBe(typed);
  }
});
