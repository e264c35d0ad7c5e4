import type { Audience, RegisterRights } from "@/core/form";
import { EVERYBODY, NOBODY } from "@/core/form";
import type { ProcessDefinition, Step } from "@/core/route";
import {
  createProcess,
  registerList,
  registerPage,
  releaseDraft,
  releasePage,
  rightsPage,
  setRegisterRights,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";

import {
  ASKER,
  DECIDER,
  DEFINITION,
  OFFICE,
  OWNER,
  PAGE,
  ROOMS,
  VAULT,
  fill,
  long,
  rights,
  steps,
  word,
  write,
} from "./registerWords";

jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
  await fill();
  await rights("rights_vault", EVERYBODY);
  await rights("rights_rooms", EVERYBODY);
});
afterAll(() => world.close());

describe("what a process reads", () => {
  const only = (column: string, of: Audience[]): RegisterRights => ({
    ...EVERYBODY,
    columns: { [column]: of },
  });
  beforeEach(async () => {
    await rights(ROOMS.key, EVERYBODY);
    await rights(VAULT.key, EVERYBODY);
  });
  let made = 0;
  /** A draft like the others, with what is given to it; owned by OWNER. */
  async function draft(more: Partial<ProcessDefinition>): Promise<string> {
    const key = `reads-${++made}`;
    value(
      await createProcess(SYSTEM, {
        ...DEFINITION,
        key,
        name: key,
        numbering: { prefix: `RD${100 + made}`, digits: 4 },
        samples: [],
        ...more,
      }),
    );
    return key;
  }
  const errors = async (actor: Actor, key: string) =>
    value(await releasePage(actor, key))
      .problems.filter((p) => p.severity === "error")
      .map((p) => p.code);

  it("must be its releaser's to see, wherever it is read, and is kept with the release", async () => {
    const owner = await person(OWNER);
    const formula = (f: string): Partial<ProcessDefinition> => ({
      fields: [
        { id: "item", name: "Item", kind: "look-up", register: VAULT.key },
        { id: "sum", name: "Sum", kind: "yes or no", worked: f },
      ],
      route: [steps.at(-1)!],
    });
    const reading: Partial<ProcessDefinition>[] = [
      formula('Item.Secret = "x"'),
      formula('get value(Item, "Secret") = "x"'),
      formula("count(get entries(Item)) > 2"),
      // What is known only when it runs, of a record behind a link.
      { ...formula('get value(Item.Room, "Door code") = "x" or get value(Item, "Secret") = "x"') },
      { ...formula("true"), route: [long("c", "Way", 'Item.Secret = "x"'), steps.at(-1)!] },
      { ...formula("true"), title: "{Item.Secret}", route: [steps.at(-1)!] },
      { ...formula("true"), route: [{ ...steps[0]!, where: 'Secret = "x"' } as Step, steps.at(-1)!] },
      {
        ...formula("true"),
        route: [{ ...steps[0]!, where: "true", sort: [{ column: "secret" }] } as Step, steps.at(-1)!],
      },
      {
        ...formula("true"),
        route: [{ ...(write("x", "mark") as object), must: 'Secret = "x"' } as Step, steps.at(-1)!],
      },
    ];
    for (const more of reading) {
      const key = await draft(more);
      await rights(VAULT.key, only("secret", [{ by: "person", person: OFFICE }]));
      expect([more, await errors(owner, key)]).toEqual([more, ["may-not-see"]]);
      expect(await releaseDraft(owner, key, "1.0.0", "")).toMatchObject({ failure: { code: "has-errors" } });
      await rights(VAULT.key, only("secret", [{ by: "person", person: OWNER }]));
      expect([more, await errors(owner, key)]).toEqual([more, []]);
      value(await releaseDraft(owner, key, "1.0.0", ""));
      const [kept] = await sql<{ reads: Record<string, string[]> }>(
        "select reads from process_release where process_key = $1",
        [key],
      );
      expect(kept!.reads[VAULT.key]).toContain("secret");
    }
    // A register it never comes to is nothing to it, whatever is known only when a formula runs.
    await rights("price_list", NOBODY);
    await rights(VAULT.key, EVERYBODY);
    expect(await errors(owner, await draft(formula("count(get entries(Item)) > 2")))).toEqual([]);
    await rights("price_list", EVERYBODY);
    // Whoever cannot tell its records by what they are called cannot choose one on a form.
    const warned = async () =>
      value(await releasePage(owner, await draft(formula("true")))).problems.map((p) => p.code);
    await rights(VAULT.key, only("secret", []));
    expect(await warned()).not.toContain("not-all-see");
    await rights(VAULT.key, {
      ...NOBODY,
      see: [{ by: "department", department: "Registry" }],
      keepers: [OWNER],
    });
    expect(await warned()).toContain("not-all-see");
    // What the register is called by is read by each look-up; the register as a whole, too.
    const key = await draft(formula("true"));
    await rights(VAULT.key, only("secret", []));
    expect(await errors(owner, key)).toEqual([]);
    await rights(VAULT.key, only("mark", []));
    expect(await errors(owner, key)).toEqual(["may-not-see"]);
    await rights(VAULT.key, NOBODY);
    expect(await errors(owner, key)).toEqual(["may-not-see"]);
    await rights(VAULT.key, { ...NOBODY, keepers: [OWNER] });
    expect(await errors(owner, key)).toEqual([]);
  });

  it("may be withdrawn: what runs stops where it would read it, says why, and goes on when let again", async () => {
    const key = await draft({ route: [steps[0]!, steps.at(-1)!] });
    value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
    const asker = await person(ASKER);
    const state = async (id: string) =>
      (
        await sql<{
          state: { status: string; stuck: { reason: { code: string; data: { message: string } } }[] };
        }>("select state from request where id = $1", [id])
      )[0]!.state;
    await rights(VAULT.key, { ...EVERYBODY, withdrawn: [key] });
    const stopped = value(await startRequest(asker, key, { item: "1" }));
    expect(await state(stopped.id)).toMatchObject({
      status: "stuck",
      stuck: [
        {
          reason: {
            code: "cannot-find",
            data: { message: "Vault may not be read by this process any more." },
          },
        },
      ],
    });
    expect(await errors(await person(OWNER), key)).toContain("withdrawn");
    await rights(VAULT.key, EVERYBODY);
    const runs = value(await startRequest(asker, key, { item: "1" }));
    expect((await state(runs.id)).status).toBe("finished");
  });
});

describe("saying who may see a register", () => {
  it("is for those who look after it, and for the office; what others changed is not written over", async () => {
    const before: RegisterRights = { ...EVERYBODY, keepers: [DECIDER] };
    await rights(ROOMS.key, before);
    const keeper = await person(DECIDER);
    const next: RegisterRights = { ...before, see: [{ by: "department", department: "Registry" }] };
    expect(await rightsPage(await person(ASKER), ROOMS.key)).toMatchObject({
      failure: { code: "not-found" },
    });
    expect(await setRegisterRights(await person(ASKER), ROOMS.key, before, next)).toMatchObject({
      failure: { code: "not-found" },
    });
    value(await setRegisterRights(keeper, ROOMS.key, before, next));
    expect(value(await rightsPage(await person(OFFICE), ROOMS.key)).rights).toEqual(next);
    expect(await setRegisterRights(await person(OFFICE), ROOMS.key, before, before)).toMatchObject({
      failure: { code: "invalid" },
    });
    // The office says who sees it, and does not see it for that.
    expect(await registerPage(await person(OFFICE), ROOMS.key, PAGE)).toMatchObject({
      failure: { code: "not-found" },
    });
    expect((await registerList(await person(OFFICE))).find((r) => r.shape.key === ROOMS.key)).toMatchObject({
      count: null,
      shape: { columns: [] },
    });
    const wrongs: Partial<RegisterRights>[] = [
      { keepers: ["nobody.known"] },
      { see: [{ by: "group", group: "no-such-group" }] },
      { see: [{ by: "person", person: "" }] },
      { columns: { nothing: [] } },
    ];
    for (const wrong of wrongs)
      expect(await setRegisterRights(keeper, ROOMS.key, next, { ...next, ...wrong })).toMatchObject({
        failure: { code: "invalid" },
      });
    // Whoever takes themselves out is out.
    value(await setRegisterRights(keeper, ROOMS.key, next, { ...next, keepers: [] }));
    expect(await rightsPage(keeper, ROOMS.key)).toMatchObject({ failure: { code: "not-found" } });
  });
});

describe("what is kept of a request for everybody to read", () => {
  const each = (list: string, steps: Step[]): Step =>
    ({
      id: "e",
      name: "Each",
      kind: "for each",
      over: { list },
      item: "One",
      bodies: [{ id: "e-b", steps }],
    }) as Step;
  const ask: Step = { ...steps.find((s) => s.id === "d")! };
  const tried: [string, Step[], string[]][] = [
    [
      "a value",
      [
        {
          id: "w",
          name: "Sum",
          kind: "work out",
          set: [{ field: "note", value: "string(number(Item.Secret))" }],
        } as Step,
      ],
      ["secret"],
    ],
    [
      "a field",
      [{ id: "w", name: "Sum", kind: "work out", set: [{ field: "note", value: "string(Amount)" }] } as Step],
      ["secret"],
    ],
    ["a condition", [long("c", "Way", "number(Item.Room.Door code) > 1")], ["code"]],
    [
      "a search, record by record",
      [{ ...steps[0]!, where: "number(Secret) > string length(Mark)" } as Step],
      ["secret"],
    ],
    ["names of rounds", [each("Pieces", [ask])], ["mark", "name"]],
  ];
  const everything = [...ROOMS.columns, ...VAULT.columns].filter((c) => c.kind === "text").map((c) => c.id);
  it.each(tried)("tells nothing that is hidden from somebody: %s", async (_, route, told) => {
    const pieces = { ...steps[0]!, id: "p", where: "true" } as Step;
    const names = route[0]!.kind === "for each" ? [pieces, ...route] : route;
    const run = async (hidden: boolean) => {
      const only = (ids: string[]): RegisterRights => ({
        ...EVERYBODY,
        columns: hidden
          ? Object.fromEntries(
              ids.filter((id) => told.includes(id)).map((id) => [id, [{ by: "person", person: OWNER }]]),
            )
          : {},
      });
      await rights(ROOMS.key, only(ROOMS.columns.map((c) => c.id)));
      await rights(VAULT.key, only(VAULT.columns.map((c) => c.id)));
      const key = `told-${++made}`;
      value(
        await createProcess(SYSTEM, {
          ...DEFINITION,
          key,
          name: key,
          numbering: { prefix: `TD${100 + made}`, digits: 4 },
          samples: [],
          fields: [
            ...DEFINITION.fields,
            { id: "amount", name: "Amount", kind: "number", worked: "number(Item.Secret)" },
          ],
          route: [...names, steps.at(-1)!],
        }),
      );
      value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
      const n = value(await startRequest(await person(ASKER), key, { item: "1" }));
      const [kept] = await sql<{ state: { stuck: unknown[]; scopes: Record<string, { name: string }> } }>(
        "select state from request where id = $1",
        [n.id],
      );
      const { stuck, scopes } = kept!.state;
      return JSON.stringify([stuck, Object.values(scopes).map((x) => x.name)]);
    };
    const words = (text: string) =>
      everything.filter(
        (c) => told.includes(c) && (text.includes(word("vault", c, 1)) || text.includes(word("rooms", c, 1))),
      );
    // Where everybody may see it, it is told; what nobody is told where not is the same.
    expect(words(await run(false))).not.toEqual([]);
    expect(words(await run(true))).toEqual([]);
  });
  let made = 0;
});
