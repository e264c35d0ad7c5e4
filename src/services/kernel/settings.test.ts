import fc from "fast-check";
import { readSettings } from "./settings";

const WHOLE = {
  DATABASE_URL: "postgres://cobble_app:x@db/cobble",
  PUBLIC_URL: "https://requests.quillhaven.example/",
  SECRET_KEY: "k".repeat(32),
};
const mistakes = (env: Record<string, string | undefined>): string[] => {
  const r = readSettings(env);
  return r.ok ? [] : r.mistakes;
};

it("what an organisation must say is asked for by name, with an example, all at once", () => {
  const said = mistakes({});
  expect(said).toHaveLength(3);
  for (const name of Object.keys(WHOLE)) expect(said.join("\n")).toContain(name);
  expect(mistakes(WHOLE)).toEqual([]);
  const r = readSettings(WHOLE);
  expect(r.ok && r.settings).toMatchObject({
    demo: false,
    port: 3210,
    publicUrl: "https://requests.quillhaven.example",
    trustedProxies: 0,
    sessionIdleHours: 72,
    sessionDays: 14,
    provider: null,
  });
});

it("the demo needs a database alone; what else is set must be right there, too", () => {
  expect(mistakes({ COBBLE_DEMO: "1", DATABASE_URL: WHOLE.DATABASE_URL })).toEqual([]);
  expect(mistakes({ COBBLE_DEMO: "1", DATABASE_URL: WHOLE.DATABASE_URL, PORT: "x" })).toHaveLength(1);
  // Nothing but 1 is the demo, where anybody may be anybody.
  for (const demo of ["0", "true", "yes", "", " 1"])
    expect(mistakes({ ...WHOLE, COBBLE_DEMO: demo })).toEqual([]);
  for (const demo of ["0", "true", "yes", "", " 1"]) {
    const r = readSettings({ ...WHOLE, COBBLE_DEMO: demo });
    expect(r.ok && r.settings.demo).toBe(false);
  }
});

it.each([
  [{ PUBLIC_URL: "http://requests.quillhaven.example" }, "https"],
  [{ PUBLIC_URL: "requests.quillhaven.example" }, "https"],
  [{ PUBLIC_URL: "https://requests.quillhaven.example/?a=b" }, "PUBLIC_URL"],
  [{ SECRET_KEY: "short" }, "openssl rand"],
  [{ DATABASE_URL: "mysql://x" }, "postgres://"],
  [{ TRUSTED_PROXIES: "-1" }, "from 0 to 20"],
  [{ TRUSTED_PROXIES: "many" }, "from 0 to 20"],
  [{ PORT: "70000" }, "from 1 to 65535"],
  [{ SESSION_DAYS: "0" }, "from 1 to 90"],
  [{ LOG_DAYS: "1.5" }, "LOG_DAYS"],
  [{ OIDC_ISSUER: "https://id.example" }, "OIDC_CLIENT_ID"],
  [{ OIDC_ISSUER: "http://id.example", OIDC_CLIENT_ID: "a", OIDC_CLIENT_SECRET: "b" }, "OIDC_ISSUER"],
  [{ OIDC_MAKES_PEOPLE: "perhaps" }, "yes or no"],
])("%j is refused with a sentence naming %s", (change, named) => {
  const said = mistakes({ ...WHOLE, ...change });
  expect(said).toHaveLength(1);
  expect(said[0]).toContain(named);
});

it("whatever is set, it is read or refused with sentences; never thrown", () => {
  const name = fc.constantFrom(...Object.keys(WHOLE), "PORT", "TRUSTED_PROXIES", "OIDC_ISSUER", "LOG_DAYS");
  fc.assert(
    fc.property(fc.dictionary(name, fc.string()), (env) => {
      for (const m of mistakes(env)) expect(m.length).toBeGreaterThan(20);
    }),
  );
});
