import { act, renderHook } from "@testing-library/react";
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
