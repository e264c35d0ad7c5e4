import { getPool } from "@/db";
import {
  act,
  actorOf,
  actorOfKey,
  addService,
  draftProblems,
  listKeys,
  listServices,
  makeKey,
  myRequests,
  officePage,
  peopleOfDemo,
  requestView,
  revokeKey,
  setService,
  signIn,
  startRequest,
  type Actor,
} from "@/services";
import { KEY, openWorld, orderOf, person, sql, value, BROWSER } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

describe("an account for a program of its own", () => {
  let id = "";
  let key = "";
  it("is opened by who keeps the office, and by nobody else", async () => {
    const refused = await addService(await person("lucia.penrose"), "Stock list", "");
    expect(refused).toMatchObject({ ok: false, failure: { code: "not-allowed" } });
    id = value(await addService(await person("tobias.marrin"), "  Stock   list ", "Orders what runs low")).id;
    expect(id).toBe("service.stock-list");
    expect(await listServices(await person("tobias.marrin"))).toEqual([
      { id, name: "Stock list", purpose: "Orders what runs low", active: true },
    ]);
    expect(await listServices(await person("lucia.penrose"))).toEqual([]);
  });

  it("has a name of its own", async () => {
    const tobias = await person("tobias.marrin");
    for (const name of ["stock LIST", "", "—", "x".repeat(81)])
      expect(await addService(tobias, name, "")).toMatchObject({
        ok: false,
        failure: { code: "invalid", data: { path: "Name of the service" } },
      });
    expect(await listServices(tobias)).toHaveLength(1);
  });

  it("acts by its key: asks in its own name, and reads what it asked for", async () => {
    const tobias = await person("tobias.marrin");
    key = value(await makeKey(tobias, id, "nightly run")).key;
    const program = (await actorOfKey(key))!;
    expect(program).toMatchObject({ kind: "service", name: "Stock list", officeRights: false });
    const n = value(await startRequest(program, "supplies", orderOf(1))).number;
    expect((await myRequests(program, 0, 10)).rows.map((r) => r.number)).toEqual([n]);
    const view = value(await requestView(program, n));
    expect(view.requester).toMatchObject({ id, name: "Stock list" });
    expect(view.trail[0]!.by).toBe(id);
    expect((await listKeys(tobias))[0]).toMatchObject({ person_name: "Stock list", label: "nightly run" });
    // Somebody else's request stays out of its sight.
    const other = value(await startRequest(await person("piet.hanlon"), "supplies", orderOf(1))).number;
    expect(await requestView(program, other)).toMatchObject({ ok: false, failure: { code: "not-found" } });
  });

  it("asks for somebody outside, whose request it is too, and people cannot", async () => {
    const program = (await actorOfKey(key))!;
    const ada = { name: "Ada Byrne", email: "ada@byrne.example" };
    const ask = (actor: Actor, whom: typeof ada | null, startKey: string | null = null) =>
      startRequest(actor, "supplies", orderOf(80), startKey, undefined, whom);
    expect(await ask(await person("piet.hanlon"), ada)).toMatchObject({
      ok: false,
      failure: { code: "not-allowed" },
    });
    const n = value(await ask(program, ada, "k1")).number;
    // The same key for somebody else is no second try.
    expect(value(await ask(program, ada, "k1")).number).toBe(n);
    for (const other of [{ ...ada, email: "b@byrne.example" }, null])
      expect(await ask(program, other, "k1")).toMatchObject({
        ok: false,
        failure: { code: "already-sent", data: { number: n } },
      });
    const view = value(await requestView(program, n));
    expect(view.requester).toEqual({
      kind: "outside",
      id,
      name: "Ada Byrne",
      email: "ada@byrne.example",
      says: "Ada Byrne, ada@byrne.example, outside the office, through Stock list",
    });
    expect(view.trail[0]!.by).toBe(id);
    // The form reads no addresses, so its page carries none.
    expect(JSON.stringify(view.form)).not.toContain("ada@");
    expect((await myRequests(program, 0, 50)).rows.find((r) => r.number === n)?.requester_name).toBe(
      "Ada Byrne",
    );
    expect(await requestView(await person("lucia.penrose"), n)).toMatchObject({
      failure: { code: "not-found" },
    });
    value(await act(program, n, { type: "withdraw", note: "changed her mind" }));
  });

  it("has no manager: who decides then is the fallback the process names", async () => {
    const program = (await actorOfKey(key))!;
    const n = value(await startRequest(program, "store-key", KEY)).number;
    const asked = (
      await sql<{ person_id: string }>(
        "select c.person_id from task_candidate c join request r on r.id = c.request_id where r.number = $1",
        [n],
      )
    ).map((r) => r.person_id);
    expect(asked.length).toBeGreaterThan(0);
    expect(asked).not.toContain(id);
  });

  it("is never picked, listed, signed in as or handed anything", async () => {
    expect((await officePage(await person("lucia.penrose"))).people.map((p) => p.id)).not.toContain(id);
    expect((await peopleOfDemo()).map((p) => p.id)).not.toContain(id);
    expect(await signIn("", "quillhaven", BROWSER)).toMatchObject({ ok: false });
    const sorcha = await person("sorcha.lind");
    const n = value(await startRequest(await person("piet.hanlon"), "supplies", orderOf(80))).number;
    const view = value(await requestView(sorcha, n));
    expect(
      await act(sorcha, n, { type: "hand over", task: view.waiting[0]!.task, to: id, note: "" }),
    ).toMatchObject({ ok: false, failure: { code: "refused" } });
  });

  it("does not count as somebody without a manager when a process is checked", async () => {
    const tobias = await person("tobias.marrin");
    const before = value(await draftProblems(tobias, "store-key"));
    value(await addService(tobias, "Second program", ""));
    expect(value(await draftProblems(tobias, "store-key"))).toEqual(before);
  });

  it("cannot make keys, and stops at once when closed", async () => {
    const tobias = await person("tobias.marrin");
    const program = (await actorOfKey(key))!;
    expect(await makeKey(program, id, "another")).toMatchObject({
      ok: false,
      failure: { code: "not-allowed" },
    });
    expect(await setService(program, id, true)).toMatchObject({
      ok: false,
      failure: { code: "not-allowed" },
    });
    expect(await setService(tobias, "lucia.penrose", false)).toMatchObject({
      ok: false,
      failure: { code: "not-found" },
    });
    value(await setService(tobias, id, false));
    expect(await actorOfKey(key)).toBeNull();
    expect(await makeKey(tobias, id, "too late")).toMatchObject({
      ok: false,
      failure: { code: "not-found" },
    });
    value(await setService(tobias, id, true));
    expect((await actorOfKey(key))!.id).toBe(id);
    value(await revokeKey(tobias, (await listKeys(tobias)).find((k) => k.label === "nightly run")!.id));
    expect(await actorOfKey(key)).toBeNull();
    expect(await actorOf(getPool(), id)).not.toBeNull();
  });
});
