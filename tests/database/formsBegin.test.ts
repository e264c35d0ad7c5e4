import { randomUUID } from "node:crypto";
import type { Edit } from "@/core/route";
import {
  askPage,
  draftView,
  editDraft,
  releaseDraft,
  requestView,
  saveAskDraft,
  startRequest,
  SYSTEM,
} from "@/services";
import { KEY, openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);
let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
  const owner = await person("tobias.marrin");
  const { version } = value(await draftView(owner, "store-key"));
  const edits: Edit[] = [
    { op: "field.set", id: "purpose", patch: { starting: '"For " + Requester.department' } },
    { op: "field.set", id: "until", patch: { starting: 'From + duration("P7D")' } },
    {
      op: "field.add",
      parent: null,
      after: null,
      field: { id: "desk", name: "Desk note", kind: "text", starting: '"secret"' },
    },
    { op: "access.set", step: "start", field: "desk", access: "hide" },
  ];
  value(await editDraft(owner, "store-key", version, edits));
  value(await releaseDraft(SYSTEM, "store-key", "2.0.0", ""));
});
afterAll(() => world.close());

const open = async (who: string, comesWith = {}, draft = randomUUID()) =>
  value(await askPage(await person(who), "store-key", draft, null, comesWith));

it("begins with what its fields say, of whoever opens it, until they have typed", async () => {
  const first = await open("lucia.penrose");
  // What one may not fill in begins with nothing; what reads something empty comes to nothing.
  expect(first.form.data).toMatchObject({ purpose: "For Collections", until: null });
  expect(first.form.data["desk"] ?? null).toBeNull();
  expect([first.said, first.like]).toEqual([[], null]);
  expect((await open("piet.hanlon")).form.data["purpose"]).not.toBe("For Collections");
  const draft = randomUUID();
  await saveAskDraft(await person("lucia.penrose"), "store-key", draft, { from: "2026-04-01" });
  expect((await open("lucia.penrose", {}, draft)).form.data).toEqual(
    expect.not.objectContaining({ purpose: "For Collections" }),
  );
});

it("takes from the link what is open there, by name, and says what it could not read", async () => {
  const [store] = await sql<{ id: string; name: string }>(
    "select id::text, name from register.stores s order by s.id limit 1",
  );
  const page = await open("lucia.penrose", {
    link: {
      Store: store!.name,
      from: "01/04/2026",
      Purpose: "<b>Photography</b>",
      "Safety training done": "yes",
      desk: "x",
      "Desk note": "x",
      Nowhere: "x",
      Object: "There is no such object",
      __proto__: "x",
      constructor: "x",
    },
  });
  expect(page.form.data).toMatchObject({
    store: store!.id,
    from: "2026-04-01",
    purpose: "<b>Photography</b>",
    trained: true,
    // It begins with what is worked out over what the link brought.
    until: "2026-04-08",
    object: null,
  });
  expect(page.form.data["desk"] ?? null).toBeNull();
  expect(page.said).toEqual([
    expect.stringContaining("“desk”, which is no field that can be filled in here"),
    // A field that is not open is not told from one that is not there.
    "The link names “Desk note”, which is no field that can be filled in here.",
    "The link names “Nowhere”, which is no field that can be filled in here.",
    "Object: nothing is called “There is no such object”. It is left empty.",
    expect.stringContaining("“constructor”"),
  ]);
  const long = await open("lucia.penrose", { link: { Purpose: "x".repeat(5_000_000) } });
  expect(long.said[0]).toContain("more than 2000 characters");
  // A date that is none stands as it was written, for the form to say so.
  expect((await open("lucia.penrose", { link: { From: "soon" } })).form.data["from"]).toBe("soon");
});

it("asks again like what one made oneself, and like nobody else's", async () => {
  const lucia = await person("lucia.penrose");
  const { number } = value(await startRequest(lucia, "store-key", { ...KEY, purpose: "As ever" }));
  const again = await open("lucia.penrose", { like: number });
  expect(again.like).toBe(number);
  expect(again.form.data).toMatchObject({ ...KEY, purpose: "As ever" });
  // The link is newer than what was asked then.
  const over = await open("lucia.penrose", { like: number, link: { Purpose: "Once more" } });
  expect(over.form.data["purpose"]).toBe("Once more");
  const other = await open("piet.hanlon", { like: number });
  expect([other.like, other.form.data["store"] ?? null]).toEqual([null, null]);
  expect((await open("lucia.penrose", { like: "KEY-999999" })).like).toBeNull();
  expect(value(await requestView(lucia, number)).mayAskAgain).toBe(true);
  expect(value(await requestView(await person("tobias.marrin"), number)).mayAskAgain).toBe(false);
});
