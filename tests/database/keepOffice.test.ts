import {
  act,
  actorOfKey,
  actorOfSession,
  addAway,
  addDuty,
  addPerson,
  awayTimes,
  bringPeople,
  changePerson,
  closePerson,
  listKeys,
  logPage,
  makeKey,
  makePasswordLink,
  officePage,
  openPerson,
  personPage,
  placesPage,
  previewPeople,
  putCalendar,
  putGroup,
  removeAway,
  removeCalendar,
  removeDuty,
  removeGroup,
  renamePlace,
  requestView,
  setRights,
  signIn,
  startRequest,
  sweepEnded,
  SYSTEM,
  type Actor,
} from "@/services";
import { BROWSER, KEY, openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
let office: Actor;
beforeAll(async () => {
  world = await openWorld();
  office = await person("tobias.marrin");
});
afterAll(() => world.close());

const UNA = {
  name: "Una Quirke",
  email: "Una.Quirke@Quillhaven.example",
  jobTitle: "Porter",
  department: "Security",
  site: "Tower House",
  manager: "dermot.vane",
  calendar: null,
  zone: "Europe/Dublin",
};
const wrong = (word: string) => ({
  ok: false,
  failure: { code: "invalid", data: expect.objectContaining({ path: word }) as unknown },
});

describe("people", () => {
  it("are added and changed by the office alone, with each field checked and said", async () => {
    expect(await addPerson(await person("lucia.penrose"), UNA)).toMatchObject({
      failure: { code: "not-allowed" },
    });
    const stale = { ...office, via: { kind: "session" as const, id: "1", provedAt: Date.now() - 3_700_000 } };
    expect(await addPerson(stale, UNA)).toMatchObject({ failure: { code: "prove-anew" } });
    expect(await addPerson(office, { ...UNA, email: "una" })).toMatchObject(wrong("E-mail"));
    expect(await addPerson(office, { ...UNA, email: "LUCIA.penrose@quillhaven.example" })).toMatchObject(
      wrong("E-mail"),
    );
    expect(await addPerson(office, { ...UNA, zone: "Nowhere/At all" })).toMatchObject(wrong("Time zone"));
    expect(await addPerson(office, { ...UNA, manager: "nobody" })).toMatchObject(wrong("Manager"));
    expect(await addPerson(office, { ...UNA, rights: true })).toMatchObject({ ok: false });
    const { id } = value(await addPerson(office, UNA));
    expect(id).toBe("una.quirke");
    expect((await officePage(office, "porter")).people.map((p) => p.id)).toContain(id);
    expect(value(await changePerson(office, id, { ...UNA, jobTitle: "Head porter" })).changed).toEqual([
      "job",
    ]);
    expect(
      await changePerson(office, "dermot.vane", {
        ...UNA,
        email: "dermot.vane@quillhaven.example",
        manager: id,
      }),
    ).toMatchObject(wrong("Manager"));
    const log = await logPage(office, { kind: "person changed", person: id, before: "" });
    expect(log!.lines[0]!.sentence).toBe("changed job of Una Quirke");
  });

  it("two with one address at once are one", async () => {
    const both = await Promise.all(
      [1, 2].map(() => addPerson(office, { ...UNA, name: "Twin", email: "twin@quillhaven.example" })),
    );
    expect(both.filter((r) => r.ok)).toHaveLength(1);
  });

  it("somebody always has the rights; who has them is in the log", async () => {
    expect(await setRights(office, "tobias.marrin", false)).toMatchObject({ failure: { code: "invalid" } });
    value(await setRights(office, "una.quirke", true));
    // Both take them from each other at once: one stays.
    const una = await person("una.quirke");
    await Promise.all([setRights(office, "una.quirke", false), setRights(una, "tobias.marrin", false)]);
    const [row] = await sql<{ n: number }>(
      "select count(*)::int n from person where office_rights and active",
    );
    expect(row!.n).toBe(1);
    await sql("update person set office_rights = id = 'tobias.marrin'");
    office = await person("tobias.marrin");
  });

  it("a preview changes nothing; what was looked at is what is brought in, or nothing", async () => {
    const csv = "Name,E-mail,Manager\nOta Brill,ota@quillhaven.example,Una Quirke\nBad,bad,\n";
    const before = (await officePage(office)).people.length;
    const plan = value(await previewPeople(office, csv));
    expect([plan.added.length, plan.refused.length]).toEqual([1, 1]);
    expect((await officePage(office)).people).toHaveLength(before);
    value(await changePerson(office, "una.quirke", UNA));
    expect(await bringPeople(office, csv, plan.version)).toMatchObject({ failure: { code: "invalid" } });
    const again = value(await previewPeople(office, csv));
    expect(value(await bringPeople(office, csv, again.version))).toEqual({ added: 1, changed: 0 });
    expect(value(await personPage(office, "ota.brill")).managerName).toBe("Una Quirke");
    expect(await previewPeople(await person("lucia.penrose"), csv)).toMatchObject({
      failure: { code: "not-allowed" },
    });
  });
});

describe("who leaves", () => {
  it("is out at once, and all they had goes to whoever takes over, in one action", async () => {
    const { number } = value(await startRequest(await person("lucia.penrose"), "store-key", KEY));
    const manager = "fintan.galloway";
    const waiting = async () =>
      value(await requestView(await person("lucia.penrose"), number)).waiting.flatMap((w) => w.people);
    expect((await waiting()).map((p) => p.name)).toContain("Fintan Galloway");
    const { key } = value(await makeKey(await person(manager), manager, "mine"));
    const { token } = value(await signIn(`${manager}@quillhaven.example`, "quillhaven", BROWSER));
    await sql("insert into process_owner values ('store-key', $1)", [manager]);
    await sql("delete from process_owner where process_key = 'store-key' and person_id <> $1", [manager]);
    value(await putGroup(office, null, "Key committee", [manager, "lucia.penrose"]));
    value(
      await addAway(await person("orla.fennimore"), "orla.fennimore", "2099-01-01", "2099-01-05", manager),
    );
    const before = value(await personPage(office, manager));
    expect(before.keep!.work.tasks.map((t) => t.number)).toContain(number);
    expect(before.keep!.work.owns).toContainEqual({ key: "store-key", alone: true });
    expect(before.keep!.work.manages.length).toBeGreaterThan(2);

    expect(await closePerson(office, "tobias.marrin", null)).toMatchObject({ failure: { code: "invalid" } });
    expect(await closePerson(office, manager, manager)).toMatchObject({ failure: { code: "invalid" } });
    const done = value(await closePerson(office, manager, "aoife.lanigan"));
    expect(done.tasks).toBe(before.keep!.work.tasks.length);

    expect(await actorOfKey(key)).toBeNull();
    expect(await actorOfSession(token)).toBeNull();
    expect(await waiting()).toEqual([{ name: "Aoife Lanigan", coversFor: "Fintan Galloway" }]);
    const after = value(await personPage(office, manager));
    expect(after.keep!.work).toMatchObject({ tasks: [], manages: [] });
    expect(after.duties).toEqual([]);
    expect(after.groups).toEqual([]);
    expect(await sql("select person_id from process_owner where process_key = 'store-key'")).toEqual([
      { person_id: "aoife.lanigan" },
    ]);
    expect((await awayTimes(office, "orla.fennimore"))[0]!.cover).toBe("Aoife Lanigan");
    const other = value(await personPage(office, "aoife.lanigan"));
    expect(other.duties.length).toBeGreaterThanOrEqual(before.duties.length);
    // Aoife does not come to manage herself.
    expect(other.said.manager).not.toBe("aoife.lanigan");
    const task = value(await requestView(await person("aoife.lanigan"), number)).myTask!;
    expect(await act(await person("aoife.lanigan"), number, { type: "take", task })).toMatchObject({
      ok: true,
    });
    // Opened again, they begin anew: no keys, nothing taken back.
    value(await openPerson(office, manager));
    expect(await actorOfKey(key)).toBeNull();
    expect((await listKeys(office)).find((k) => k.label === "mine")!.revoked_at).not.toBeNull();
    value(await closePerson(office, manager, null));
  });

  it("two who take each other's place at once do not both go", async () => {
    value(await setRights(office, "una.quirke", true));
    const una = await person("una.quirke");
    await Promise.all([closePerson(office, "una.quirke", null), closePerson(una, "tobias.marrin", null)]);
    const [row] = await sql<{ n: number }>(
      "select count(*)::int n from person where office_rights and active",
    );
    expect(row!.n).toBe(1);
    await sql("update person set active = true, office_rights = true where id = 'tobias.marrin'");
    office = await person("tobias.marrin");
  });
});

describe("away", () => {
  it("is entered by oneself, and by the office for others; whoever covers answers while it lasts", async () => {
    const dov = await person("dov.merrick");
    expect(await addAway(dov, "lucia.penrose", "2099-01-01", "2099-01-02", null)).toMatchObject({
      failure: { code: "not-allowed" },
    });
    expect(await addAway(dov, "dov.merrick", "2099-01-05", "2099-01-02", null)).toMatchObject(wrong("Away"));
    expect(await addAway(dov, "dov.merrick", "2020-01-01", "2020-01-02", null)).toMatchObject(wrong("Away"));
    expect(await addAway(dov, "dov.merrick", "2099-01-01", "2099-01-02", "dov.merrick")).toMatchObject(
      wrong("Cover"),
    );
    value(await addAway(dov, "dov.merrick", "2099-01-01", "2099-01-02", null));
    expect(await addAway(office, "dov.merrick", "2099-01-02", "2099-01-09", null)).toMatchObject(
      wrong("Away"),
    );
    const [entry] = await awayTimes(dov, "dov.merrick");
    expect(entry).toMatchObject({ first: "2099-01-01", last: "2099-01-02", cover: null });
    expect(await removeAway(await person("lucia.penrose"), "dov.merrick", entry!.id)).toMatchObject({
      ok: false,
    });
    value(await removeAway(dov, "dov.merrick", entry!.id));
    expect(await awayTimes(dov, "dov.merrick")).toEqual([]);
  });
  it("whole days count, in the zone of whoever is away, over a clock change", async () => {
    await sql("update person set zone = 'America/Halifax' where id = 'dov.merrick'");
    value(await addAway(await person("dov.merrick"), "dov.merrick", "2099-03-08", "2099-03-08", null));
    const [row] = await sql<{ h: number }>(
      "select extract(epoch from ends - starts)::int / 3600 h from absence where person_id = 'dov.merrick'",
    );
    expect(row!.h).toBe(23);
  });
});

describe("duties, groups and calendars", () => {
  it("a duty is given and taken with a history, and what processes find follows at once", async () => {
    value(await addDuty(office, "dov.merrick", "Fire warden", { site: "Harbour Store", department: null }));
    expect(
      await addDuty(office, "dov.merrick", " Fire  warden ", { site: "Harbour Store", department: null }),
    ).toMatchObject(wrong("Duty"));
    expect(
      await addDuty(office, "dov.merrick", "Fire warden", { site: "Nowhere", department: null }),
    ).toMatchObject(wrong("For"));
    const page = value(await personPage(office, "dov.merrick"));
    const duty = page.duties.find((d) => d.duty === "Fire warden")!;
    expect(duty.place).toBe("Harbour Store");
    value(await removeDuty(office, duty.record));
    expect(value(await personPage(office, "dov.merrick")).duties).not.toContainEqual(duty);
    const history = await sql<{ did: string; by_person: string }>(
      "select did, by_person from register_history where register_key = 'role_holders' and record_id = $1 order by id",
      [duty.record],
    );
    expect(history).toEqual([
      { did: "added", by_person: "tobias.marrin" },
      { did: "removed", by_person: "tobias.marrin" },
    ]);
  });
  it("a site is renamed with its people and the duties held for it, and one that is there takes them in", async () => {
    value(
      await addDuty(office, "lucia.penrose", "First aider", { site: "Lakeside Annexe", department: null }),
    );
    const before = (await placesPage(office)).sites;
    const [old, other] = [before.find((s) => s.duties > 0)!, before.find((s) => s.name === "Harbour Store")!];
    expect(await renamePlace(await person("lucia.penrose"), "site", old.name, "X")).toMatchObject({
      ok: false,
    });
    // The register of duties has a list of sites of its own.
    expect(await renamePlace(office, "site", old.name, "Nowhere at all")).toMatchObject(wrong("Name"));
    expect(old.name).not.toBe(other.name);
    const done = value(await renamePlace(office, "site", old.name, "Harbour Store"));
    expect(done.people).toBeGreaterThanOrEqual(old.people);
    const after = (await placesPage(office)).sites;
    expect(after.map((s) => s.name)).not.toContain(old.name);
    expect(after.find((s) => s.name === "Harbour Store")).toMatchObject({
      people: old.people + other.people,
      duties: old.duties + other.duties,
    });
    value(await renamePlace(office, "department", "Learning", "Learning and outreach"));
    expect((await placesPage(office)).departments.map((d) => d.name)).toContain("Learning and outreach");
  });
  it("a group or calendar that something names stays, and says what", async () => {
    const { key } = value(await putGroup(office, null, "Spare hands", ["lucia.penrose"]));
    expect(await putGroup(office, null, "spare HANDS", [])).toMatchObject(wrong("Name"));
    value(await removeGroup(office, key));
    const groups = (await officePage(office)).groups;
    const named = [];
    for (const g of groups) if (!(await removeGroup(office, g.key)).ok) named.push(g.name);
    const calendar = {
      name: "Night shift",
      zone: "Europe/Dublin",
      week: { "1": [["22:00", "06:00"]] },
      holidays: [],
    };
    const holidays = (country: string, region?: string) => ({
      ...calendar,
      publicHolidays: { country, works: ["Good Friday"], ...(region ? { region } : {}) },
    });
    for (const nowhere of [holidays("XX"), holidays("IE", "BY")])
      expect(await putCalendar(office, null, nowhere as never)).toMatchObject(wrong("Public holidays"));
    const made = value(await putCalendar(office, null, calendar as never)).key;
    expect(await putCalendar(office, null, { ...calendar, week: {} } as never)).toMatchObject(wrong("Hours"));
    expect(
      await putCalendar(office, made, { ...calendar, week: { "1": [["22:00", "25:00"]] } } as never),
    ).toMatchObject(wrong("Hours"));
    value(
      await changePerson(office, "dov.merrick", {
        ...UNA,
        name: "Dov Merrick",
        email: "dov.merrick@quillhaven.example",
        calendar: made,
      }),
    );
    expect(await removeCalendar(office, made)).toMatchObject({ failure: { code: "invalid" } });
    value(
      await changePerson(office, "dov.merrick", {
        ...UNA,
        name: "Dov Merrick",
        email: "dov.merrick@quillhaven.example",
      }),
    );
    value(await removeCalendar(office, made));
    expect(await removeCalendar(office, "office")).toMatchObject({ ok: false });
  });
});

it("what has ended is swept away, nothing else", async () => {
  const live = value(await signIn("lucia.penrose@quillhaven.example", "quillhaven", BROWSER)).token;
  const old = value(await signIn("lucia.penrose@quillhaven.example", "quillhaven", BROWSER)).token;
  const oldId = ((await actorOfSession(old))!.via as { id: string }).id;
  await sql("update session set expires_at = now() - interval '1 day' where id = $1", [oldId]);
  value(await makePasswordLink(office, "piet.hanlon"));
  await sql("update password_link set expires_at = now() - interval '1 day'");
  await sql("insert into office_log (at, what) values (now() - interval '10 years', 'signed out')");
  const swept = await sweepEnded(SYSTEM);
  expect(swept).toMatchObject({ entries: 1 });
  expect(swept.sessions).toBeGreaterThanOrEqual(1);
  expect(await actorOfSession(live)).not.toBeNull();
  expect(await sql("select * from password_link")).toEqual([]);
  expect(await sweepEnded(office)).toEqual({ sessions: 0, entries: 0, drafts: 0 });
});
