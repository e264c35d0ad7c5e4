import { actorOfKey, actorOfSession, listKeys, makeKey, revokeKey, signIn, signOut } from "@/services";
import { openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

const EMAIL = "lucia.penrose@quillhaven.example";

it("signs in with the right password, in any case of the address; keeps only digests", async () => {
  const { token } = value(await signIn(EMAIL.toUpperCase(), "quillhaven", "a"));
  expect((await actorOfSession(token))?.id).toBe("lucia.penrose");
  const stored = await sql<{ h: string; p: string }>(
    "select encode(s.token_hash, 'base64') h, p.password_hash p from session s join person p on p.id = s.person_id",
  );
  expect(stored[0]!.h).not.toContain(token);
  expect(stored[0]!.p).toMatch(/^\$argon2id\$/);
  await signOut(token);
  expect(await actorOfSession(token)).toBeNull();
});
it("says the same for a wrong password and an unknown person", async () => {
  expect(await signIn(EMAIL, "Quillhaven", "b")).toMatchObject({ ok: false, failure: { code: "sign-in" } });
  expect(await signIn("nobody@quillhaven.example", "quillhaven", "b")).toMatchObject({
    ok: false,
    failure: { code: "sign-in" },
  });
});
it("stops after too many tries for an account, also with the right password", async () => {
  for (let i = 0; i < 9; i++) await signIn("dov.merrick@quillhaven.example", "guess", `c${i}`);
  expect(await signIn("dov.merrick@quillhaven.example", "quillhaven", "c")).toMatchObject({
    ok: false,
    failure: { code: "too-many-tries" },
  });
  expect((await signIn(EMAIL, "quillhaven", "c")).ok).toBe(true);
});
it("an expired session and a person who left are nobody", async () => {
  const { token } = value(await signIn(EMAIL, "quillhaven", "d"));
  await sql("update session set expires_at = now() - interval '1 second'");
  expect(await actorOfSession(token)).toBeNull();
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
