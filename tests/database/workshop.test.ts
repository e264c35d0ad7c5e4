import {
  closeProcess,
  copyProcess,
  deleteProcess,
  openProcess,
  releasedDefinition,
  draftSince,
  draftView,
  editDraft,
  draftProblems,
  releaseDraft,
  startRequest,
  act,
  askPage,
  usesOf,
  workshopList,
  createProcess,
  releasePage,
} from "@/services";
import type { Edit } from "@/core/route";
import { randomUUID } from "node:crypto";
import { KEY, openWorld, orderOf, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

const edits = async (process: string, ...list: Edit[]) => {
  const owner = await person("tobias.marrin");
  const { version } = value(await draftView(owner, process));
  return editDraft(owner, process, version, list);
};

it("a draft is its owner's and office people's; to all others it does not exist", async () => {
  expect((await workshopList(await person("tobias.marrin"))).map((p) => p.key)).toEqual([
    "acquisition-offers",
    "check-due",
    "supplies",
    "survey-costs",
    "gallery-works",
    "check-labels",
    "new-borrower",
    "note-done",
    "object-loan",
    "school-visit",
    "school-week",
    "shelf-audit",
    "store-key",
    "take-into-treatment",
    "tell-and-close",
    "ticketing-terms",
  ]);
  expect((await workshopList(await person("maeve.dunlea"))).map((p) => p.key)).toEqual([
    "new-borrower",
    "object-loan",
    "shelf-audit",
  ]);
  const piet = await person("piet.hanlon");
  expect(await draftView(piet, "supplies")).toMatchObject({ ok: false, failure: { code: "not-found" } });
  expect(await editDraft(piet, "supplies", 0, [{ op: "field.remove", id: "urgent" }])).toMatchObject({
    ok: false,
    failure: { code: "not-found" },
  });
  expect(await releaseDraft(piet, "supplies", "9.0.0", "")).toMatchObject({ ok: false });
  expect(
    await createProcess(piet, value(await draftView(await person("tobias.marrin"), "supplies")).definition),
  ).toMatchObject({ ok: false, failure: { code: "not-allowed" } });
});

it("where something of the office is used is told of the processes one may design, and of no others", async () => {
  const at = async (who: string, of: "register" | "duty" | "group" | "calendar", key: string) => [
    ...new Set((await usesOf(await person(who), of, key)).map((u) => u.key)),
  ];
  expect(await at("tobias.marrin", "register", "stores")).toEqual(["check-due", "shelf-audit", "store-key"]);
  expect(await at("maeve.dunlea", "register", "stores")).toEqual(["shelf-audit"]);
  expect(await at("piet.hanlon", "register", "stores")).toEqual([]);
  expect(await at("tobias.marrin", "group", "duty-desk")).toEqual(["store-key"]);
  // Who decides, and whom a ladder asks.
  const steps = await usesOf(await person("tobias.marrin"), "group", "duty-desk");
  const decides = { process: "Store key", number: "3a.1", step: "Security looks" };
  expect(steps).toEqual(expect.arrayContaining([expect.objectContaining(decides)]));
  // What stands there by chance, and what a pattern would mean, is not taken for it.
  expect(await at("tobias.marrin", "register", "store")).toEqual([]);
  expect(await at("tobias.marrin", "register", "%")).toEqual([]);
});

it("a live process is not touched by its draft; a release changes the next request, not those under way", async () => {
  const lucia = await person("lucia.penrose");
  const before = value(await startRequest(lucia, "store-key", KEY)).number;
  value(
    await edits(
      "store-key",
      { op: "field.rename", id: "purpose", name: "Why you need it" },
      {
        op: "field.add",
        parent: "where",
        after: null,
        field: { id: "witness", name: "Second person", kind: "person", needed: "true" },
      },
      { op: "step.remove", id: "exceptions" },
    ),
  );
  expect(await askPage(lucia, "store-key", randomUUID())).toMatchObject({ ok: true });
  expect(JSON.stringify(value(await askPage(lucia, "store-key", randomUUID())).form)).not.toContain(
    "Second person",
  );

  const page = value(await releasePage(await person("tobias.marrin"), "store-key"));
  expect(page.proposed).toBe("2.0.0");
  expect(page.changes.map((c) => `${c.what} ${c.name} ${c.how}`)).toEqual(
    expect.arrayContaining([
      "field Second person added",
      "field Why you need it changed",
      "step Exception removed",
    ]),
  );
  value(await releaseDraft(await person("tobias.marrin"), "store-key", "2.0.0", "Two people from now on"));

  expect(await startRequest(lucia, "store-key", { ...KEY, store: "2" })).toMatchObject({
    ok: false,
    failure: { data: { code: "form", data: { problems: [{ path: "witness", code: "needed" }] } } },
  });
  value(await startRequest(lucia, "store-key", { ...KEY, store: "2", witness: "eamon.stack" }));
  const old = await sql<{ version: string }>(
    "select p.version from request r join process_release p on p.id = r.release_id where r.number = $1",
    [before],
  );
  expect(old).toEqual([{ version: "1.0.0" }]);
  const state = (
    await sql<{ state: { tasks: Record<string, { id: string }> } }>(
      "select state from request where number = $1",
      [before],
    )
  )[0]!.state;
  value(
    await act(await person("fintan.galloway"), before, {
      type: "answer",
      task: Object.values(state.tasks)[0]!.id,
      answer: "approve",
      note: "",
      data: {},
    }),
  );
  // The old release still has its exception step; its token has gone past it.
  expect(
    await sql(
      "select 1 from request_event e join request r on r.id = e.request_id where r.number = $1 and e.type = 'step did' and e.body -> 'did' ->> 'kind' = 'choose'",
      [before],
    ),
  ).toHaveLength(1);
});

it("renaming a field rewrites the formulas that read it, and undo brings back the same text", async () => {
  const owner = await person("tobias.marrin");
  const { definition, version } = value(await draftView(owner, "supplies"));
  value(
    await editDraft(owner, "supplies", version, [
      { op: "field.rename", id: "total", name: "Grand total" },
      { op: "field.rename", id: "quantity", name: "Pieces" },
    ]),
  );
  const after = value(await draftView(owner, "supplies"));
  const text = JSON.stringify(after.definition);
  expect(text).toContain('"formula":"Grand total"');
  expect(text).toContain("Pieces * Unit price");
  expect(text).toContain("EUR {Grand total}");
  expect(value(await draftProblems(owner, "supplies")).filter((p) => p.severity === "error")).toEqual([]);
  const inverses = await sql<{ inverse: Edit }>(
    "select inverse from process_edit where process_key = 'supplies' order by version desc limit 2",
  );
  value(
    await editDraft(
      owner,
      "supplies",
      after.version,
      inverses.map((r) => r.inverse),
    ),
  );
  expect(value(await draftView(owner, "supplies")).definition).toEqual(definition);
});

it("refuses to decide where two people changed the same, and leaves the draft alone", async () => {
  const owner = await person("tobias.marrin");
  const { version } = value(await draftView(owner, "supplies"));
  value(await editDraft(owner, "supplies", version, [{ op: "process.set", patch: { purpose: "First" } }]));
  expect(
    await editDraft(owner, "supplies", version, [{ op: "process.set", patch: { purpose: "Second" } }]),
  ).toMatchObject({ ok: false, failure: { code: "stale-draft" } });
  expect(value(await draftView(owner, "supplies")).definition.purpose).toBe("First");
});

it("keeps what many people change at once, each on the version they had", async () => {
  const owner = await person("tobias.marrin");
  const start = value(await draftView(owner, "supplies"));
  const add = (n: number): Edit[] => [
    {
      op: "field.add",
      parent: null,
      after: null,
      field: { id: `many-${n}`, name: "Many", kind: "number" },
    },
    { op: "field.set", id: `many-${n}`, patch: { help: `by ${n}` } },
  ];
  const rename: Edit = { op: "field.rename", id: "urgent", name: "In a hurry" };
  const formula: Edit = { op: "field.set", id: "reason", patch: { shown: "Urgent" } };
  // The rename comes first; the formula was written against the old name.
  value(await editDraft(owner, "supplies", start.version, [rename]));
  const sent = await Promise.all(
    [1, 2, 3, 4, 5, 6].map((n) =>
      editDraft(owner, "supplies", start.version, n === 1 ? [...add(n), formula] : add(n)),
    ),
  );
  expect(sent.map((r) => r.ok)).toEqual(sent.map(() => true));
  const now = value(await draftView(owner, "supplies"));
  expect(now.version).toBe(start.version + 1 + 6 * 2 + 1);
  const fields = now.definition.fields.filter((f) => f.id.startsWith("many-"));
  expect(fields.map((f) => f.help).sort()).toEqual([1, 2, 3, 4, 5, 6].map((n) => `by ${n}`));
  expect(fields.map((f) => f.name).sort()).toEqual(["Many", ...[2, 3, 4, 5, 6].map((n) => `Many ${n}`)]);
  const all = JSON.stringify(now.definition.fields);
  expect(all).toContain('"shown":"In a hurry"');
  // Each was told what stood before theirs, and whoever only looks can fetch the same.
  const seen = value(await draftSince(owner, "supplies", start.version));
  expect(seen.edits).toHaveLength(now.version - start.version);
  expect(value(await editDraft(owner, "supplies", start.version, [])).theirs).toEqual(seen.edits);
  expect(await draftSince(await person("piet.hanlon"), "supplies", 0)).toMatchObject({ ok: false });
});

it("applies edits all or none", async () => {
  const before = value(await draftView(await person("tobias.marrin"), "supplies"));
  expect(
    await edits(
      "supplies",
      { op: "process.set", patch: { purpose: "Gone" } },
      { op: "field.remove", id: "no-such" },
    ),
  ).toMatchObject({ ok: false, failure: { code: "edit-refused", data: { code: "unknown-field" } } });
  const after = value(await draftView(await person("tobias.marrin"), "supplies"));
  expect([after.version, after.definition]).toEqual([before.version, before.definition]);
});

it("does not release what has errors, what has not changed, or a version that is not higher", async () => {
  const owner = await person("tobias.marrin");
  const before = value(await draftView(owner, "supplies"));
  value(
    await edits("supplies", { op: "field.set", id: "total", patch: { worked: "sum(Itemz.Line total)" } }),
  );
  expect(await releaseDraft(owner, "supplies", "1.1.0", "")).toMatchObject({
    ok: false,
    failure: { code: "has-errors" },
  });
  const now = value(await draftView(owner, "supplies"));
  value(
    await editDraft(owner, "supplies", now.version, [
      { op: "process.replace", definition: before.definition },
    ]),
  );
  expect(await releaseDraft(owner, "supplies", "1.0.0", "")).toMatchObject({
    ok: false,
    failure: { code: "bad-version" },
  });
  expect(await releaseDraft(owner, "supplies", "new", "")).toMatchObject({
    ok: false,
    failure: { code: "bad-version" },
  });
  value(await releaseDraft(owner, "supplies", "1.0.1", "Purpose said better"));
  expect(await releaseDraft(owner, "supplies", "1.0.2", "")).toMatchObject({
    ok: false,
    failure: { code: "nothing-changed" },
  });
  const n = value(await startRequest(await person("piet.hanlon"), "supplies", orderOf(1, "5"))).number;
  expect(
    await sql(
      "select p.version from request r join process_release p on p.id = r.release_id where r.number = $1",
      [n],
    ),
  ).toEqual([{ version: "1.0.1" }]);
});

describe("the life of a process", () => {
  const copy = async (name: string, prefix: string) => copyProcess(await rights(), "supplies", name, prefix);
  /** Somebody who may make processes. */
  const rights = async () => {
    const [who] = await sql<{ id: string }>("select id from person where office_rights and active limit 1");
    return person(who!.id);
  };
  it("is copied with a name and numbers of its own, closed, opened, and deleted while nobody used it", async () => {
    const maker = await rights();
    expect(await copyProcess(await person("piet.hanlon"), "supplies", "Copy", "COPY")).toMatchObject({
      ok: false,
    });
    expect(await copy("Framing supplies", "SUP")).toMatchObject({
      ok: false,
      failure: { code: "invalid", data: { message: expect.stringContaining("Conservation supplies") } },
    });
    const { key } = value(await copy("Framing supplies", "FRAME"));
    const mine = value(await draftView(maker, key)).definition;
    const like = value(await draftView(maker, "supplies")).definition;
    expect(mine).toEqual({
      ...like,
      key,
      name: "Framing supplies",
      owners: [maker.id],
      numbering: { ...like.numbering, prefix: "FRAME" },
    });
    expect(await closeProcess(maker, key)).toMatchObject({ ok: false });
    value(await releaseDraft(maker, key, "1.0.0", ""));
    expect((await askPage(maker, key, randomUUID())).ok).toBe(true);
    value(await closeProcess(maker, key));
    expect((await askPage(maker, key, randomUUID())).ok).toBe(false);
    expect(await startRequest(maker, key, orderOf(1))).toMatchObject({ ok: false });
    expect(value(await releasePage(maker, key))).toMatchObject({
      used: false,
      releases: [{ state: "retired" }],
    });
    expect(value(await openProcess(maker, key))).toEqual({ version: "1.0.0" });
    expect((await askPage(maker, key, randomUUID())).ok).toBe(true);
    const release = value(await releasePage(maker, key)).releases[0]!;
    expect(value(await releasedDefinition(maker, key, release.id)).key).toBe(key);
    // The release of another process is not there under this one.
    expect(await releasedDefinition(maker, "supplies", release.id)).toMatchObject({ ok: false });
    value(await deleteProcess(maker, key));
    expect(await draftView(maker, key)).toMatchObject({ ok: false });
    expect(await sql("select 1 from process_release where process_key = $1", [key])).toEqual([]);
  });
  it("is not deleted once somebody asked, not even at the same moment", async () => {
    const maker = await rights();
    const { key } = value(await copy("Paper supplies", "PAPER"));
    value(await releaseDraft(maker, key, "1.0.0", ""));
    const piet = await person("piet.hanlon");
    const [asked, gone] = await Promise.all([startRequest(piet, key, orderOf(1)), deleteProcess(maker, key)]);
    expect([asked.ok, gone.ok].filter(Boolean)).toHaveLength(1);
    if (asked.ok)
      expect(await deleteProcess(maker, key)).toMatchObject({
        ok: false,
        failure: { data: { message: expect.stringContaining("Close it instead") } },
      });
  });
  it("takes no numbers that are another's: that keeps it from being released", async () => {
    const maker = await rights();
    const { key } = value(await copy("Glass supplies", "GLASS"));
    const { version } = value(await draftView(maker, key));
    value(
      await editDraft(maker, key, version, [
        { op: "process.set", patch: { numbering: { prefix: "KEY", digits: 4 } } },
      ]),
    );
    expect(value(await draftProblems(maker, key)).map((p) => p.code)).toContain("prefix-taken");
    expect(await releaseDraft(maker, key, "1.0.0", "")).toMatchObject({
      ok: false,
      failure: { code: "has-errors" },
    });
    value(await deleteProcess(maker, key));
  });
});
