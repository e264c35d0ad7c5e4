import { StandInProvider, type Claims } from "./standInProvider";
import { BROWSER, openWorld, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
const provider = new StandInProvider();
let services: typeof import("@/services");

beforeAll(async () => {
  world = await openWorld();
  await provider.open();
  Object.assign(process.env, {
    OIDC_ISSUER: provider.issuer,
    OIDC_CLIENT_ID: provider.clientId,
    OIDC_CLIENT_SECRET: provider.clientSecret,
    OIDC_NAME: "Quillhaven",
    OIDC_MAKES_PEOPLE: "yes",
    SECRET_KEY: "s".repeat(40),
  });
  // Settings are read once, so what reads them comes after they are set.
  services = await import("@/services");
});
afterEach(() => {
  provider.bend = (c) => c;
  provider.forge = false;
});
afterAll(async () => {
  await provider.close();
  await world.close();
});

const LUCIA: Claims = {
  sub: "l-1",
  email: "Lucia.Penrose@quillhaven.example",
  email_verified: true,
  name: "Lucia",
};
async function round(claims: Claims, change: (search: string) => string = (s) => s) {
  const { url, carry } = value(await services.goToProvider("/ask", null));
  return services.comeBack(change(provider.signIn(url, claims)), carry, null, BROWSER);
}
const why = (w: string) => ({ ok: false, failure: { code: "provider-refused", data: { why: w } } });
const who = async (r: Awaited<ReturnType<typeof round>>) => {
  const back = value(r);
  if (back.kind !== "signed in") throw new Error("not signed in");
  return (await services.actorOfSession(back.signedIn.token))!.id;
};

it("somebody is matched by an address the provider vouches for, from then on by who they are there", async () => {
  expect(await round({ ...LUCIA, email_verified: false })).toMatchObject(why("not vouched for"));
  expect(await round({ sub: "l-0" })).toMatchObject(why("not vouched for"));
  expect(await who(await round(LUCIA))).toBe("lucia.penrose");
  expect(await who(await round({ ...LUCIA, email: "lucia.moved@elsewhere.example" }))).toBe("lucia.penrose");
  // Somebody else there who gets her old address is not her.
  expect(await round({ ...LUCIA, sub: "l-2" })).toMatchObject(why("taken"));
  const log = await sql<{ n: number }>(
    "select count(*)::int n from office_log where what = 'sign-in refused'",
  );
  expect(log[0]!.n).toBe(3);
});

it("newcomers are made where that is allowed, without rights; who has left stays out", async () => {
  const ota: Claims = {
    sub: "o-1",
    email: "ota@quillhaven.example",
    email_verified: true,
    name: "Ota Brill",
  };
  expect(await who(await round(ota))).toBe("ota.brill");
  expect(await who(await round(ota))).toBe("ota.brill");
  const [row] = await sql<{ office_rights: boolean }>(
    "select office_rights from person where id = 'ota.brill'",
  );
  expect(row!.office_rights).toBe(false);
  await sql("update person set active = false where id in ('ota.brill', 'dov.merrick')");
  expect(await round(ota)).toMatchObject(why("closed"));
  expect(
    await round({ sub: "d-1", email: "dov.merrick@quillhaven.example", email_verified: true }),
  ).toMatchObject(why("closed"));
  expect(await sql("select 1 from person where email = 'dov.merrick@quillhaven.example'")).toHaveLength(1);
});

it("what does not fit is refused: state, code, nonce, signature, issuer, audience, time", async () => {
  expect(await round(LUCIA, (s) => s.replace(/state=[^&]*/, "state=other"))).toMatchObject(why("unsaid"));
  expect(await round(LUCIA, (s) => s.replace(/code=[^&]*/, "code=other"))).toMatchObject(why("unsaid"));
  expect(await round(LUCIA, () => "?error=access_denied")).toMatchObject(why("unsaid"));
  const bends: Record<string, unknown>[] = [
    { nonce: "other" },
    { iss: "https://other.example" },
    { aud: "somebody else" },
    { exp: Math.floor(Date.now() / 1000) - 3600 },
  ];
  for (const bent of bends) {
    provider.bend = (c) => ({ ...c, ...bent });
    expect(await round(LUCIA)).toMatchObject(why("unsaid"));
  }
  provider.bend = (c) => c;
  provider.forge = true;
  expect(await round(LUCIA)).toMatchObject(why("unsaid"));
});

it("what a browser carries is sealed, its own, and serves once", async () => {
  const { url, carry } = value(await services.goToProvider("/ask", null));
  const { state } = Object.fromEntries(new URL(url).searchParams);
  expect(carry).not.toContain(state);
  const search = provider.signIn(url, LUCIA);
  expect(await services.comeBack(search, null, null, BROWSER)).toMatchObject(why("late"));
  expect(await services.comeBack(search, `${carry.slice(0, -3)}abc`, null, BROWSER)).toMatchObject(
    why("late"),
  );
  // Somebody else's code, put into this browser by a link, signs nobody in.
  const other = value(await services.goToProvider("/ask", null));
  expect(await services.comeBack(search, other.carry, null, BROWSER)).toMatchObject(why("unsaid"));
  value(await services.comeBack(search, carry, null, BROWSER));
  expect(await services.comeBack(search, carry, null, BROWSER)).toMatchObject(why("unsaid"));
});

it("who is signed in shows anew who they are: lately, and as the same person", async () => {
  const back = value(await round(LUCIA));
  if (back.kind !== "signed in") throw new Error("not signed in");
  const { token } = back.signedIn;
  await sql("update session set proved_at = now() - interval '2 hours'");
  const actor = (await services.actorOfSession(token))!;
  const prove = async (claims: Claims) => {
    const { url, carry } = value(await services.goToProvider("", actor));
    expect(new URL(url).searchParams.get("prompt")).toBe("login");
    return services.comeBack(provider.signIn(url, claims), carry, actor, BROWSER);
  };
  expect(await prove({ ...LUCIA, auth_time: Math.floor(Date.now() / 1000) - 86_400 })).toMatchObject(
    why("unsaid"),
  );
  expect(
    await prove({ sub: "p-1", email: "piet.hanlon@quillhaven.example", email_verified: true }),
  ).toMatchObject(why("somebody else"));
  const provedAt = async () => ((await services.actorOfSession(token))!.via as { provedAt: number }).provedAt;
  expect(Date.now() - (await provedAt())).toBeGreaterThan(3_600_000);
  expect(value(await prove(LUCIA))).toEqual({ kind: "shown anew" });
  expect(Date.now() - (await provedAt())).toBeLessThan(60_000);
});

it("without the provider one is told so, and passwords go on working", async () => {
  await provider.close();
  jest.resetModules();
  process.env["OIDC_ISSUER"] = "http://127.0.0.1:9";
  const fresh = await import("@/services");
  expect(await fresh.goToProvider("", null)).toMatchObject(why("unreachable"));
  value(await fresh.signIn("piet.hanlon@quillhaven.example", "quillhaven", BROWSER));
  await (await import("@/db")).closePool();
});
