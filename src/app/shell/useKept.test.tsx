import { act, renderHook } from "@testing-library/react";
import { sameTyped, sweepUnkept } from "./unkept";
import { useKept } from "./useKept";

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const wait = (ms: number) => act(() => jest.advanceTimersByTimeAsync(ms));
type Save = (v: string) => Promise<{ ok: boolean; sentence?: string }>;
function keeping(save: Save) {
  const saved: string[] = [];
  const hook = renderHook(
    ({ value }) =>
      useKept(value, (v: string) => {
        saved.push(v);
        return save(v);
      }),
    { initialProps: { value: "first" } },
  );
  return {
    saved,
    type: (value: string) => hook.rerender({ value }),
    said: () => hook.result.current.sentence,
    stop: () => hook.result.current.stop(),
    leave: hook.unmount,
  };
}
const fine: Save = async () => ({ ok: true });

it("saves nothing while nothing is typed", async () => {
  const k = keeping(fine);
  await wait(30_000);
  expect(k.saved).toEqual([]);
});

it("saves once, shortly after somebody pauses", async () => {
  const k = keeping(fine);
  for (const v of ["a", "ab", "abc"]) {
    k.type(v);
    await wait(300);
  }
  expect(k.saved).toEqual([]);
  await wait(700);
  expect(k.saved).toEqual(["abc"]);
  expect(k.said()).toBe("Kept. You can leave and come back.");
  await wait(30_000);
  expect(k.saved).toEqual(["abc"]);
});

it("tries again while the server cannot be reached, with what is typed by then", async () => {
  let up = false;
  const k = keeping(async () => {
    if (!up) throw new Error("no connection");
    return { ok: true };
  });
  k.type("a");
  await wait(800);
  expect(k.said()).toBe("Not kept yet: the server cannot be reached. It is tried again.");
  k.type("ab");
  await wait(800);
  up = true;
  await wait(8000);
  expect(k.saved.at(-1)).toBe("ab");
  expect(k.said()).toBe("Kept. You can leave and come back.");
});

it("says what the server says when it refuses", async () => {
  const k = keeping(async () => ({ ok: false, sentence: "This task is not yours to answer." }));
  k.type("a");
  await wait(800);
  expect(k.said()).toBe("This task is not yours to answer.");
});

it("saves at once when the page is left, by its frame or by the browser", async () => {
  const k = keeping(fine);
  k.type("a");
  await act(async () => void window.dispatchEvent(new Event("pagehide")));
  expect(k.saved).toEqual(["a"]);
  k.type("b");
  k.leave();
  await wait(0);
  expect(k.saved).toEqual(["a", "b"]);
});

it("once the form is sent, nothing is kept behind it", async () => {
  const k = keeping(fine);
  k.type("a");
  k.stop();
  k.leave();
  await wait(10_000);
  expect(k.saved).toEqual([]);
});

it("saves one after the other, so that an older text cannot come in last", async () => {
  const ends: (() => void)[] = [];
  const k = keeping(() => new Promise((r) => ends.push(() => r({ ok: true }))));
  k.type("a");
  await wait(700);
  k.type("b");
  await wait(10_000);
  expect(k.saved).toEqual(["a"]);
  await act(async () => ends[0]!());
  expect(k.saved).toEqual(["a", "b"]);
  expect(k.said()).toBe("Keeping…");
  await act(async () => ends[1]!());
  expect(k.said()).toBe("Kept. You can leave and come back.");
});

describe("until it has reached the server", () => {
  // A form that is left holds what it could not send.
  beforeEach(() => localStorage.clear());
  type Kept = { ok: boolean; value?: { savedAt: number } };
  const held = () => JSON.parse(localStorage.getItem("unkept una form") ?? "null") as unknown;
  /** A page of a form that the server had kept at a moment, as it begins. */
  function page(begins: string, over: number | null, save: (v: string) => Promise<Kept>) {
    const put: unknown[] = [];
    const hook = renderHook(
      ({ value }) =>
        useKept(value, save, {
          place: "una form",
          over,
          held: (v) => ({ text: v }),
          put: (x) => put.push(x),
        }),
      { initialProps: { value: begins } },
    );
    return { put, type: (value: string) => hook.rerender({ value }), now: () => hook.result.current };
  }
  const down = () => Promise.reject(new Error("offline"));

  it("is held in the browser, put back where nothing else was kept since, and let go once it is there", async () => {
    const before = page("", 5, down);
    before.type("typed offline");
    await wait(800);
    expect(held()).toMatchObject({ value: { text: "typed offline" }, over: 5 });
    const again = page("", 5, () => Promise.resolve({ ok: true, value: { savedAt: 9 } }));
    expect(again.put).toEqual([{ text: "typed offline" }]);
    expect(again.now().found).toMatchObject({ back: true });
    again.type("typed offline");
    await wait(800);
    expect(held()).toBeNull();
  });

  it("is asked about where the server has kept something else since, and outlives what is typed meanwhile", async () => {
    page("", 5, down).type("mine");
    await wait(800);
    const later = page("other", 7, () => Promise.resolve({ ok: true, value: { savedAt: 9 } }));
    expect(later.put).toEqual([]);
    expect(later.now().found).toMatchObject({ back: false });
    later.type("other, and more");
    await wait(800);
    const once = page("other, and more", 9, down);
    expect(once.now().found).toMatchObject({ back: false });
    act(() => once.now().found!.take());
    expect(once.put).toEqual([{ text: "mine" }]);
    expect(once.now().found).toBeNull();
    expect(page("mine", 9, down).now().found).toBeNull();
  });

  it("counts from what this page has kept, not only from what it began with", async () => {
    let up = true;
    const p = page("", null, () => (up ? Promise.resolve({ ok: true, value: { savedAt: 20 } }) : down()));
    p.type("a");
    await wait(800);
    expect(held()).toBeNull();
    up = false;
    p.type("ab");
    await wait(800);
    expect(held()).toMatchObject({ over: 20 });
    const again = page("a", 20, down);
    expect(again.put).toEqual([{ text: "ab" }]);
  });

  it("is not asked about where the server has it, and its answer was lost", async () => {
    page("", 5, down).type("there");
    await wait(800);
    const again = page("there", 8, down);
    expect([again.put, again.now().found, held()]).toEqual([[], null, null]);
  });

  it("goes with what is sent or thrown away, when it grew old, and when somebody signs out", async () => {
    const sent = page("", 5, down);
    sent.type("x");
    await wait(800);
    sent.now().stop();
    expect(held()).toBeNull();
    for (const all of [false, true]) {
      localStorage.setItem("unkept a", JSON.stringify({ value: 1, over: null, at: 0 }));
      localStorage.setItem("unkept b", JSON.stringify({ value: 1, over: null, at: 40 * 86_400_000 }));
      localStorage.setItem("theme", "dark");
      sweepUnkept(41 * 86_400_000, all);
      expect(Object.keys(localStorage)).toEqual(all ? ["theme"] : ["unkept b", "theme"]);
    }
  });

  it("stays held where an older save ends after a newer one began", async () => {
    const ends: ((r: Kept) => void)[] = [];
    const p = page("", null, () => new Promise((r) => ends.push(r)));
    p.type("a");
    await wait(800);
    p.type("ab");
    // The page is left while the first is still under way.
    await act(async () => void window.dispatchEvent(new Event("pagehide")));
    await act(async () => ends[0]!({ ok: true, value: { savedAt: 3 } }));
    expect(held()).toMatchObject({ value: { text: "ab" } });
    await act(async () => ends[1]!({ ok: true, value: { savedAt: 4 } }));
    expect(held()).toBeNull();
  });

  it("what is no such thing any more is as if it were not there", () => {
    for (const odd of ["", "null", "[]", "{", '{"value":1}', '{"at":"x","over":null}']) {
      localStorage.setItem("unkept una form", odd);
      expect(page("", null, down).now().found).toBeNull();
    }
  });
});

it("two values are the same in whatever order they name it, and not where a row moved", () => {
  const row = (n: string, x: string) => ({ "#": n, x });
  expect(sameTyped({ a: "1", b: [row("1", "y")], c: null }, { b: [{ x: "y", "#": "1" }], a: "1" })).toBe(
    true,
  );
  expect(sameTyped({ b: [row("1", "y"), row("2", "z")] }, { b: [row("2", "z"), row("1", "y")] })).toBe(false);
  expect(sameTyped({ a: false }, {})).toBe(false);
});
