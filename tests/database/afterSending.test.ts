import { randomUUID } from "node:crypto";
import type { Start } from "@/core/route";
import { askPage, draftView, editDraft, releaseDraft, sentPage, startRequest, SYSTEM } from "@/services";
import { KEY, openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);
let world: Awaited<ReturnType<typeof openWorld>>;
let releases = 1;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

/** Has the process say this once its form is sent, and sends one. */
async function sentAs(sent: Extract<Start, { kind: "form" }>["sent"]) {
  const owner = await person("tobias.marrin");
  const { version, definition } = value(await draftView(owner, "store-key"));
  const form = definition.starts.find((s) => s.kind === "form")!;
  const start = { ...form, ...(sent ? { sent } : {}) };
  value(await editDraft(owner, "store-key", version, [{ op: "start.put", after: null, start }]));
  value(await releaseDraft(SYSTEM, "store-key", `${++releases}.0.0`, ""));
  const lucia = await person("lucia.penrose");
  const { number } = value(await startRequest(lucia, "store-key", KEY, randomUUID()));
  return { number, page: value(await sentPage(lucia, number)) };
}

it("tells whoever sent it what its owner says, with a form to go on with that begins with their values", async () => {
  const { number, page } = await sentAs({
    says: "Thank you, {Requester.name}. {Key number} {Store.name}",
    leads: {
      to: "form",
      process: "supplies",
      values: [
        { name: "Project", value: '"For " + Request.number' },
        { name: "Key number", value: "Key number" },
      ],
    },
  });
  const [store] = await sql<{ name: string }>("select name from register.stores order by id limit 1");
  expect(page.says).toMatch(/^Thank you, Lucia Penrose\. … \S/);
  expect(store).toBeTruthy();
  expect(page.leads).toEqual({
    name: "Conservation supplies",
    href: `/ask/supplies?${new URLSearchParams({ Project: `For ${number}` })}`,
    outside: false,
  });
  // What it leads to is filled in so.
  const link = Object.fromEntries(new URLSearchParams(page.leads!.href.split("?")[1]));
  const next = await askPage(await person("lucia.penrose"), "supplies", randomUUID(), null, { link });
  expect(value(next).form.data).toMatchObject({ project: `For ${number}` });
  expect(value(await askPage(await person("piet.hanlon"), "store-key", randomUUID())).saysAfter).toBe(true);
});
it("leads to no form that cannot be filled in, and nowhere where an address came to none", async () => {
  const none = await sentAs({ leads: { to: "form", process: "nowhere", values: [] } });
  expect(none.page).toMatchObject({ says: "", leads: null });
  const { page } = await sentAs({
    leads: { to: "address", address: "https://elsewhere.example/thanks?{Request.number}={Purpose}" },
  });
  expect(page.leads).toMatchObject({ name: "elsewhere.example", outside: true });
});
it("is for whoever asked alone", async () => {
  const { number } = await sentAs({ says: "{Purpose}" });
  for (const other of ["fintan.galloway", "tobias.marrin", "piet.hanlon"])
    expect(await sentPage(await person(other), number)).toMatchObject({ ok: false });
});
