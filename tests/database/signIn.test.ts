import {
  actorOfKey,
  actorOfSession,
  becomePerson,
  changePassword,
  endOwnSession,
  forCaller,
  linkPerson,
  listKeys,
  makeKey,
  makePasswordLink,
  ownSessions,
  proveAnew,
  releaseDraft,
  revokeKey,
  setPasswordByLink,
  signIn,
  signOut,
  type SigningIn,
} from "@/services";
import { BROWSER, openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
beforeEach(() => sql("delete from sign_in_pace"));
afterAll(() => world.close());

const EMAIL = "lucia.penrose@quillhaven.example";
const GOOD = "lantern orchard ferry nine";
const from = <T>(address: string, work: () => Promise<T>): Promise<T> =>
  forCaller({ gone: new AbortController().signal, address }, work);
/** As much time passes as is still to be waited. */
const waitOver = () => sql("update sign_in_pace set free_at = now(), at = now()");

it("signs in with the right password, in any case of the address; keeps only digests", async () => {
  const { token, known } = value(await signIn(EMAIL.toUpperCase(), "quillhaven", BROWSER));
  expect((await actorOfSession(token))?.id).toBe("lucia.penrose");
  const stored = await sql<{ h: string; p: string; k: string }>(
    `select encode(s.token_hash, 'base64') h, p.password_hash p, encode(k.token_hash, 'base64') k
     from session s join person p on p.id = s.person_id join known_browser k on k.person_id = p.id`,
  );
  expect(JSON.stringify(stored)).not.toContain(token);
  expect(JSON.stringify(stored)).not.toContain(known);
  expect(stored[0]!.p).toMatch(/^\$argon2id\$/);
  await signOut(token);
  expect(await actorOfSession(token)).toBeNull();
});
it("says the same for a wrong password and an unknown person", async () => {
  const refused = { ok: false, failure: { code: "sign-in" } };
  expect(await signIn(EMAIL, "Quillhaven", BROWSER)).toMatchObject(refused);
  expect(await signIn("nobody@quillhaven.example", "quillhaven", BROWSER)).toMatchObject(refused);
});

describe("pace", () => {
  const DOV = "dov.merrick@quillhaven.example";
  const guess = (n: number, browser: SigningIn = BROWSER) =>
    from(`10.0.0.${n}`, () => signIn(DOV, "guess", browser));

  it("tries of strangers at an account are slowed down, each wait longer, from wherever they come", async () => {
    for (let i = 0; i < 5; i++) expect(await guess(i)).toMatchObject({ failure: { code: "sign-in" } });
    const waits: number[] = [];
    for (let i = 5; i < 12; i++) {
      const r = await guess(i);
      expect(r).toMatchObject({ ok: false, failure: { code: "too-many-tries" } });
      waits.push((r as unknown as { failure: { data: { seconds: number } } }).failure.data.seconds);
      await waitOver();
      expect(await guess(i + 100)).toMatchObject({ failure: { code: "sign-in" } });
    }
    expect(waits).toEqual([2, 4, 8, 16, 32, 60, 60]);
    // The right password waits as well, else waiting would cost whoever guesses nothing.
    expect(await signIn(DOV, "quillhaven", BROWSER)).toMatchObject({ failure: { code: "too-many-tries" } });
    await waitOver();
    value(await signIn(DOV, "quillhaven", BROWSER));
  });

  it("whoever is attacked goes on signing in with the browser they know; knowing it opens nothing for others", async () => {
    const { known } = value(await signIn(DOV, "quillhaven", BROWSER));
    for (let i = 0; i < 8; i++) await guess(i);
    expect(await guess(9)).toMatchObject({ failure: { code: "too-many-tries" } });
    value(await from("10.0.0.9", () => signIn(DOV, "quillhaven", { ...BROWSER, known })));
    // A browser known for one person is a stranger's to all others.
    const r = await signIn(EMAIL, "quillhaven", BROWSER);
    const own = value(r).known;
    expect(await guess(9, { ...BROWSER, known: own })).toMatchObject({ failure: { code: "too-many-tries" } });
    // And has a pace of its own.
    for (let i = 0; i < 5; i++) await guess(20, { ...BROWSER, known });
    expect(await guess(21, { ...BROWSER, known })).toMatchObject({ failure: { code: "too-many-tries" } });
  });

  it("one address is slowed down over all accounts, whatever it succeeds in besides", async () => {
    const at = (n: number) => from("10.9.9.9", () => signIn(`p${n}@quillhaven.example`, "guess", BROWSER));
    for (let i = 0; i < 30; i++) expect(await at(i)).toMatchObject({ failure: { code: "sign-in" } });
    expect(await at(30)).toMatchObject({ failure: { code: "too-many-tries" } });
    expect(await from("10.9.9.9", () => signIn(EMAIL, "quillhaven", BROWSER))).toMatchObject({
      failure: { code: "too-many-tries" },
    });
    value(await from("10.9.9.8", () => signIn(EMAIL, "quillhaven", BROWSER)));
  });

  it("of many tries at the same moment no more are let through than one after another", async () => {
    const began = performance.now();
    const all = await Promise.all(Array.from({ length: 40 }, (_, i) => guess(i)));
    const tried = all.filter((r) => !r.ok && r.failure.code === "sign-in").length;
    // On a slow machine a wait may be over before the last of them asks: then that many more are right.
    let most = 5;
    for (let left = (performance.now() - began) / 1000, wait = 2; left >= wait; left -= wait, wait *= 2)
      most++;
    expect(tried).toBeGreaterThanOrEqual(5);
    expect(tried).toBeLessThanOrEqual(most);
  });
});

describe("sessions", () => {
  it("end after being unused, after their days, with their person, and when the browser begins another", async () => {
    const first = value(await signIn(EMAIL, "quillhaven", BROWSER));
    const other = value(await signIn(EMAIL, "quillhaven", BROWSER));
    const next = value(await signIn(EMAIL, "quillhaven", { ...BROWSER, earlier: first.token }));
    expect(await actorOfSession(first.token)).toBeNull();
    expect((await actorOfSession(other.token))?.id).toBe("lucia.penrose");
    await sql("update session set seen_at = now() - interval '73 hours' where id = $1", [
      ((await actorOfSession(other.token))!.via as { id: string }).id,
    ]);
    expect(await actorOfSession(other.token)).toBeNull();
    await sql("update session set seen_at = now() - interval '71 hours'");
    // Being used keeps it.
    expect(await actorOfSession(next.token)).not.toBeNull();
    const [row] = await sql<{ fresh: boolean }>(
      "select seen_at > now() - interval '1 minute' as fresh from session order by id desc limit 1",
    );
    expect(row!.fresh).toBe(true);
    await sql("update session set expires_at = now() - interval '1 second'");
    expect(await actorOfSession(next.token)).toBeNull();
  });

  it("are listed to their person alone, and ended one by one or all but this", async () => {
    const a = value(await signIn(EMAIL, "quillhaven", { ...BROWSER, browser: "Desk" }));
    const b = value(await signIn(EMAIL, "quillhaven", { ...BROWSER, browser: "Phone" }));
    const c = value(await signIn(EMAIL, "quillhaven", { ...BROWSER, browser: "Kiosk" }));
    const here = (await actorOfSession(a.token))!;
    const seen = await ownSessions(here);
    expect(seen.filter((s) => ["Desk", "Phone", "Kiosk"].includes(s.browser))).toHaveLength(3);
    expect(seen.filter((s) => s.here).map((s) => s.browser)).toEqual(["Desk"]);
    const phone = seen.find((s) => s.browser === "Phone")!;
    expect(await endOwnSession(await person("dov.merrick"), phone.id)).toMatchObject({
      ok: false,
      failure: { code: "not-found" },
    });
    expect(await actorOfSession(b.token)).not.toBeNull();
    value(await endOwnSession(here, phone.id));
    expect(await actorOfSession(b.token)).toBeNull();
    value(await endOwnSession(here, null));
    expect(await actorOfSession(c.token)).toBeNull();
    expect(await actorOfSession(a.token)).not.toBeNull();
  });

  it("what matters most asks who it is again when signing in was long ago", async () => {
    const { token, known } = value(await signIn("tobias.marrin@quillhaven.example", "quillhaven", BROWSER));
    value(await makeKey((await actorOfSession(token))!, "tobias.marrin", "now"));
    await sql("update session set proved_at = now() - interval '61 minutes'");
    const late = (await actorOfSession(token))!;
    const asked = { ok: false, failure: { code: "prove-anew" } };
    expect(await makeKey(late, "tobias.marrin", "late")).toMatchObject(asked);
    expect(await releaseDraft(late, "supplies", "9.0.0", "")).toMatchObject({ ok: false });
    expect(await makePasswordLink(late, "dov.merrick")).toMatchObject(asked);
    expect(await changePassword(late, GOOD)).toMatchObject(asked);
    expect(await proveAnew(late, "wrong", known)).toMatchObject({ failure: { code: "sign-in" } });
    value(await proveAnew(late, "quillhaven", known));
    value(await makeKey((await actorOfSession(token))!, "tobias.marrin", "shown"));
  });

  it("becoming somebody in the demo is no way to be a service", async () => {
    await sql("insert into person (id, name, kind) values ('service.x', 'X', 'service')");
    expect(await becomePerson("service.x", BROWSER)).toBeNull();
  });
});

describe("passwords", () => {
  it("are set by a link that works once, ends all sessions and signs in; a newer one voids it", async () => {
    const office = await person("tobias.marrin");
    const before = value(await signIn("dov.merrick@quillhaven.example", "quillhaven", BROWSER));
    const old = value(await makePasswordLink(office, "dov.merrick")).token;
    const { token } = value(await makePasswordLink(office, "dov.merrick"));
    expect(await linkPerson(old)).toBeNull();
    expect(await linkPerson(token)).toMatchObject({ id: "dov.merrick" });
    expect(await setPasswordByLink(token, "short", BROWSER)).toMatchObject({ failure: { code: "invalid" } });
    // Looking, and being refused, use nothing up; of two at once one succeeds.
    const both = await Promise.all([
      setPasswordByLink(token, GOOD, BROWSER),
      setPasswordByLink(token, `${GOOD} other`, BROWSER),
    ]);
    expect(both.filter((r) => r.ok)).toHaveLength(1);
    expect(await linkPerson(token)).toBeNull();
    expect(await actorOfSession(before.token)).toBeNull();
    expect(await signIn("dov.merrick@quillhaven.example", "quillhaven", BROWSER)).toMatchObject({
      ok: false,
    });
    const [row] = await sql<{ n: number }>(
      "select count(*)::int n from office_log where what = 'password set'",
    );
    expect(row!.n).toBeGreaterThan(0);
  });
  it("links are made by the office alone, run out, and die with their person's account", async () => {
    expect(await makePasswordLink(await person("lucia.penrose"), "dov.merrick")).toMatchObject({
      failure: { code: "not-allowed" },
    });
    const { token } = value(await makePasswordLink(await person("tobias.marrin"), "piet.hanlon"));
    await sql("update password_link set expires_at = now() - interval '1 second'");
    expect(await setPasswordByLink(token, GOOD, BROWSER)).toMatchObject({ failure: { code: "invalid" } });
    const next = value(await makePasswordLink(await person("tobias.marrin"), "piet.hanlon")).token;
    await sql("update person set active = false where id = 'piet.hanlon'");
    expect(await setPasswordByLink(next, GOOD, BROWSER)).toMatchObject({ failure: { code: "invalid" } });
    await sql("update person set active = true where id = 'piet.hanlon'");
  });
  it("changing one's own ends one's other sessions, not this", async () => {
    const a = value(await signIn("sorcha.lind@quillhaven.example", "quillhaven", BROWSER));
    const b = value(await signIn("sorcha.lind@quillhaven.example", "quillhaven", BROWSER));
    value(await changePassword((await actorOfSession(a.token))!, GOOD));
    expect(await actorOfSession(a.token)).not.toBeNull();
    expect(await actorOfSession(b.token)).toBeNull();
    value(await signIn("sorcha.lind@quillhaven.example", GOOD, BROWSER));
  });
  it("no key changes a password", async () => {
    const { key } = value(await makeKey(await person("piet.hanlon"), "piet.hanlon", "k"));
    expect(await changePassword((await actorOfKey(key))!, GOOD)).toMatchObject({
      failure: { code: "not-allowed" },
    });
  });
});

it("nobody makes a key for another person, not even with the rights of the office; those may take keys back", async () => {
  const rights = await person("tobias.marrin");
  expect(rights.officeRights).toBe(true);
  expect(await makeKey(rights, "lucia.penrose", "x")).toMatchObject({
    ok: false,
    failure: { code: "not-allowed" },
  });
  const { key } = value(await makeKey(await person("lucia.penrose"), "lucia.penrose", "mine"));
  const row = (await listKeys(rights)).find((k) => k.label === "mine")!;
  value(await revokeKey(rights, row.id));
  expect(await actorOfKey(key)).toBeNull();
});
it("a key acts as its person until it is taken back", async () => {
  const lucia = await person("lucia.penrose");
  expect(await makeKey(lucia, "orla.fennimore", "x")).toMatchObject({
    ok: false,
    failure: { code: "not-allowed" },
  });
  expect(await makeKey(lucia, "lucia.penrose", " ")).toMatchObject({
    ok: false,
    failure: { code: "invalid" },
  });
  const { key } = value(await makeKey(lucia, "lucia.penrose", "stock list"));
  expect((await actorOfKey(key))?.id).toBe("lucia.penrose");
  expect(await actorOfKey(`${key}x`)).toBeNull();
  const [row] = await listKeys(lucia);
  expect(row).toMatchObject({ label: "stock list", revoked_at: null });
  expect(await revokeKey(await person("dov.merrick"), row!.id)).toMatchObject({ ok: false });
  value(await revokeKey(lucia, row!.id));
  expect(await actorOfKey(key)).toBeNull();
});
