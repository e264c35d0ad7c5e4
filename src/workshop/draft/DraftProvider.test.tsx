import { act, renderHook } from "@testing-library/react";
import type { Edit } from "@/core/route";
import { definition, Designing, NO_TEMPLATES } from "../../../tests/components/draft";
import type { DraftKeeper, TheirEdit } from "./draft";
import { useDraft } from "./DraftProvider";

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());
const wait = (ms: number) => act(() => jest.advanceTimersByTimeAsync(ms));

function designing(save?: DraftKeeper["save"], theirs: TheirEdit[] = []) {
  const sent: { base: number; edits: Edit[] }[] = [];
  const reload = jest.fn();
  /** How many savings there were when each question was asked. */
  const asked: number[] = [];
  const keeper: DraftKeeper = {
    async save(base, edits) {
      sent.push({ base, edits });
      return save ? save(base, edits) : { ok: true, value: { version: base + edits.length, theirs: [] } };
    },
    since: async (version) => ({
      ok: true,
      value: { edits: theirs.filter((t) => t.version > version) },
    }),
    ask: async () => {
      asked.push(sent.length);
      return { offered: [], none: null, records: {} };
    },
    preview: async () => ({ ok: true, value: null }),
    starting: async () => ({ ok: true, value: null }),
    keepLetter: async () => ({ ok: true, value: { letter: "k", version: 1 } }),
    keepLadder: async () => ({ ok: true, value: { ladder: "k", version: 1 } }),
    mails: async () => ({ ok: true, value: [] }),
    mail: async () => ({ ok: false, code: "not-found", sentence: "none" }),
    values: async () => ({ ok: true, value: null }),
    documents: NO_TEMPLATES,
    reload,
  };
  const hook = renderHook(() => useDraft(), {
    wrapper: ({ children }) => <Designing keeper={keeper}>{children}</Designing>,
  });
  return {
    sent,
    asked,
    reload,
    draft: () => hook.result.current,
    leave: hook.unmount,
    edit: (e: Edit) => void act(() => hook.result.current.edit(e)),
  };
}
const rename = (name: string): Edit => ({ op: "field.rename", id: "total", name });
const purpose = (text: string): Edit => ({ op: "process.set", patch: { purpose: text } });

it("applies an edit at once and saves several together, on the version they were made on", async () => {
  const w = designing();
  w.edit(rename("Sum"));
  w.edit(purpose("x"));
  expect(w.draft().definition).toMatchObject({ title: "{Sum}", purpose: "x" });
  expect(w.sent).toEqual([]);
  await wait(400);
  expect(w.sent).toEqual([{ base: 7, edits: [rename("Sum"), purpose("x")] }]);
  expect(w.draft().saving).toBe("Saved");
  w.edit(purpose("y"));
  await wait(400);
  expect(w.sent[1]).toEqual({ base: 9, edits: [purpose("y")] });
});

it("asks the server over a draft once that has what was changed just now, and all the same where it cannot be reached", async () => {
  const question = { ask: "offered", field: "total", row: null, search: "" } as const;
  const w = designing();
  w.edit(purpose("x"));
  void w.draft().ask("", "start", {}, question);
  await wait(100);
  expect(w.asked).toEqual([1]);
  void w.draft().ask("", "start", {}, question);
  await wait(10);
  expect(w.asked).toEqual([1, 1]);
  const off = designing(() => Promise.reject(new Error("no line")));
  off.edit(purpose("x"));
  void off.draft().ask("", "start", {}, question);
  await wait(1000);
  expect([off.asked, off.sent.length]).toEqual([[], 1]);
  await wait(1500);
  expect(off.asked).toHaveLength(1);
});

it("edits made while others are saved go next, never beside them", async () => {
  const ends: (() => void)[] = [];
  const w = designing(
    (base, edits) =>
      new Promise((r) =>
        ends.push(() => r({ ok: true, value: { version: base + edits.length, theirs: [] } })),
      ),
  );
  w.edit(purpose("one"));
  await wait(400);
  w.edit(purpose("two"));
  await wait(5000);
  expect(w.sent).toHaveLength(1);
  await act(async () => ends[0]!());
  expect(w.sent[1]).toEqual({ base: 8, edits: [purpose("two")] });
});

it("keeps edits in their order while the server cannot be reached", async () => {
  let up = false;
  const w = designing(async (base, edits) => {
    if (!up) throw new Error("no connection");
    return { ok: true, value: { version: base + edits.length, theirs: [] } };
  });
  w.edit(purpose("one"));
  await wait(400);
  expect(w.draft().saving).toBe("Not saved yet: the server cannot be reached. It is tried again.");
  w.edit(purpose("two"));
  up = true;
  await wait(4000);
  expect(w.sent.at(-1)).toEqual({ base: 7, edits: [purpose("one"), purpose("two")] });
  expect(w.draft().saving).toBe("Saved");
  expect(w.reload).not.toHaveBeenCalled();
});

const their = (version: number, edit: Edit): TheirEdit => ({ version, edit, by: "Brendan" });

it("edits of others come in between, formulas carried through their renames; undo stays one's own", async () => {
  const shown: Edit = { op: "field.set", id: "total", patch: { help: "in euro" } };
  const w = designing(async (base, edits) => ({
    ok: true,
    value: {
      version: 9 + edits.length,
      theirs: base === 7 ? [their(8, rename("Sum")), their(9, purpose("theirs"))] : [],
    },
  }));
  w.edit(shown);
  w.edit({ op: "process.set", patch: { title: "{Total} in all" } });
  await wait(400);
  expect(w.draft().definition).toMatchObject({ title: "{Sum} in all", purpose: "theirs" });
  expect(w.draft().definition.fields[0]).toMatchObject({ name: "Sum", help: "in euro" });
  expect(w.draft().saving).toContain("Brendan");
  void act(() => w.draft().undo());
  expect(w.draft().definition).toMatchObject({ title: "{Sum}", purpose: "theirs" });
  void act(() => w.draft().undo());
  expect(w.draft().definition.fields[0]).toMatchObject({ name: "Sum" });
  expect(w.draft().definition.fields[0]!.help).toBeUndefined();
  await wait(400);
  expect(w.sent.at(-1)!.base).toBe(11);
});

it("where both changed the same it asks, with both values, and loses neither", async () => {
  const theirs = [their(8, purpose("theirs"))];
  const stale = { ok: false as const, code: "stale-draft", sentence: "Brendan changed this." };
  const w = designing(
    async (base, edits) =>
      base === 7 ? stale : { ok: true, value: { version: base + edits.length, theirs: [] } },
    theirs,
  );
  w.edit(purpose("mine"));
  w.edit(rename("Sum"));
  await wait(400);
  expect(w.draft().asked).toMatchObject({
    by: ["Brendan"],
    clashes: [{ says: "the process, purpose", mine: "mine", theirs: "theirs", gone: false }],
  });
  expect(w.draft().definition).toMatchObject({ purpose: "mine", title: "{Sum}" });
  expect(w.reload).not.toHaveBeenCalled();
  // Nothing goes to the server until it is said what counts.
  const before = w.sent.length;
  await wait(20_000);
  expect(w.sent).toHaveLength(before);
  act(() => w.draft().asked!.settle(w.draft().asked!.clashes));
  expect(w.draft().definition).toMatchObject({ purpose: "theirs", title: "{Sum}" });
  await wait(4000);
  expect(w.sent.at(-1)).toEqual({ base: 8, edits: [rename("Sum")] });
  expect(w.draft().asked).toBeNull();
  // What they changed since is not undone by undoing one's own.
  void act(() => w.draft().undo());
  expect(w.draft().definition).toMatchObject({ purpose: "theirs", title: "{Total}" });
});

it("keeps one's own where that is chosen", async () => {
  const theirs = [their(8, purpose("theirs"))];
  const w = designing(
    async (base, edits) =>
      base === 7
        ? { ok: false, code: "stale-draft", sentence: "" }
        : { ok: true, value: { version: base + edits.length, theirs: [] } },
    theirs,
  );
  w.edit(purpose("mine"));
  await wait(400);
  act(() => w.draft().asked!.settle([]));
  expect(w.draft().definition.purpose).toBe("mine");
  await wait(4000);
  expect(w.sent.at(-1)).toEqual({ base: 8, edits: [purpose("mine")] });
});

it("asks about what was typed while the rest was on its way", async () => {
  let answer = () => undefined as void;
  const w = designing(
    (base, edits) =>
      new Promise((r) => {
        answer = () =>
          r({ ok: true, value: { version: 9, theirs: base === 7 ? [their(8, purpose("theirs"))] : [] } });
        if (base !== 7) r({ ok: true, value: { version: base + edits.length, theirs: [] } });
      }),
  );
  w.edit(rename("Sum"));
  await wait(400);
  w.edit(purpose("mine"));
  await act(async () => answer());
  expect(w.draft().asked!.clashes).toHaveLength(1);
  expect(w.draft().definition.purpose).toBe("mine");
  act(() => w.draft().asked!.settle([]));
  await wait(4000);
  expect(w.sent.at(-1)).toEqual({ base: 9, edits: [purpose("mine")] });
});

it("shows what others did to whoever only looks", async () => {
  const w = designing(undefined, [their(8, purpose("theirs"))]);
  await wait(11_000);
  expect(w.draft().definition.purpose).toBe("theirs");
  expect(w.draft().saving).toContain("Brendan");
});

it("a refused edit changes nothing, and says why", async () => {
  const w = designing();
  w.edit(rename("net-price"));
  expect(w.draft().definition).toBe(definition);
  expect(w.draft().said).toContain("letters, digits and spaces");
  expect(w.draft().canUndo).toBe(false);
  await wait(1000);
  expect(w.sent).toEqual([]);
});

it("takes back and does again, each saved as an edit of its own", async () => {
  const w = designing();
  w.edit(rename("Sum"));
  w.edit(purpose("x"));
  void act(() => w.draft().undo());
  void act(() => w.draft().undo());
  expect(w.draft().definition).toEqual(definition);
  expect([w.draft().canUndo, w.draft().canRedo]).toEqual([false, true]);
  void act(() => w.draft().redo());
  expect(w.draft().definition.title).toBe("{Sum}");
  // Something new ends what could have been done again.
  w.edit(purpose("z"));
  expect(w.draft().canRedo).toBe(false);
  await wait(400);
  expect(w.sent.flatMap((s) => s.edits)).toHaveLength(6);
});

it("saves what is pending when it is left, and warns before the browser would throw it away", async () => {
  const w = designing();
  const warned = () => !window.dispatchEvent(new Event("beforeunload", { cancelable: true }));
  expect(warned()).toBe(false);
  w.edit(purpose("one"));
  expect(warned()).toBe(true);
  w.leave();
  await wait(0);
  expect(w.sent).toEqual([{ base: 7, edits: [purpose("one")] }]);
});

it("reads everything for the chosen sample, and takes another when that one is removed", () => {
  const w = designing();
  const title = () => w.draft().turn?.text({ step: "", scope: null }, "title", w.draft().definition.title);
  expect(title()).toBe("5");
  void act(() => w.draft().setSample("s2"));
  expect(title()).toBe("900");
  w.edit({ op: "sample.remove", id: "s2" });
  expect([w.draft().sample?.id, title()]).toEqual(["s1", "5"]);
  w.edit({ op: "sample.remove", id: "s1" });
  expect([w.draft().sample, w.draft().turn, w.draft().path]).toEqual([null, null, null]);
  // Problems are those of what stands there now.
  w.edit({ op: "process.set", patch: { title: "{Nothing}" } });
  expect(w.draft().problems.map((p) => `${p.where.place} ${p.code}`)).toContain("title unknown-name");
});
