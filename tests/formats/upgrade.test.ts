import { readFileSync, readdirSync } from "node:fs";
import { join } from "node:path";
import { NEW_REQUEST, replay, type RequestEvent } from "@/core/engine";
import {
  EVENT,
  PROCESS,
  readEvent,
  readPart,
  readProcess,
  readState,
  sentProcess,
  STATE,
  storedState,
} from "@/formats";

/** Documents of every version there has been, kept for ever: what was stored once can be read for ever. */
const folder = join(process.cwd(), "src/formats/fixtures");
const load = (name: string): unknown => JSON.parse(readFileSync(join(folder, `${name}.json`), "utf8"));
const files = readdirSync(folder).map((f) => f.replace(".json", ""));

it("there is a fixture of every version of every format", () => {
  const wanted = [PROCESS, STATE, EVENT].flatMap((f) =>
    Array.from({ length: f.newest }, (_, i) => `${f.name.replace("cobble-step/", "")}@${i + 1}`),
  );
  expect(files.sort()).toEqual(wanted.sort());
  for (const f of [PROCESS, STATE, EVENT]) expect(f.upgraders).toHaveLength(f.newest - 1);
});

it("a process of any version is read as the newest, and comes to the same", () => {
  const [old, now] = [readProcess(load("process@1")), readProcess(load("process@2"))];
  expect(old).toEqual(now);
  expect(now.starts.map((s) => s.id)).toEqual(["form"]);
  const writes = JSON.stringify(now.route).match(/"each":"\w+"/g);
  // Line items are named by their id; they were named by what they are called.
  expect(new Set(writes)).toEqual(new Set(['"each":"objects"']));
});

it("events of any version are read as the newest, and fold to the same state", () => {
  const read = (version: number) =>
    (load(`event@${version}`) as Record<string, unknown>[]).map((e) => readEvent(e, version));
  const [oldest, old, now] = [read(1), read(2), read(3)];
  expect(old).toEqual(now);
  expect(oldest).toEqual(now);
  const state = replay(now as RequestEvent[], NEW_REQUEST);
  expect(state).toEqual(readState(load("state@7")));
  // Before others could ask, it was somebody by their account.
  expect(state).toEqual(readState(load("state@6")));
  // There were no procedures before steps could hand to one.
  expect(state).toEqual(readState(load("state@5")));
  // There were no rounds before steps could have some.
  expect(state).toEqual(readState(load("state@4")));
  // Nothing was found before steps could find.
  expect(state).toEqual(readState(load("state@3")));
  // What changed before it was written down is taken for seen by everybody.
  expect(readState(load("state@2"))).toEqual({ ...state, changedAt: {} });
  expect(readState(load("state@1"))).toEqual({ ...state, changedAt: {} });
  expect(storedState(state)).toEqual(load("state@7"));
});

it("who asked is a party in procedures, too, however deep", () => {
  const inner = { ...(load("state@6") as object), calls: {} };
  const call = (id: string, state: unknown) => ({
    id,
    token: "k1",
    step: "s",
    procedure: "p",
    release: "1",
    state,
  });
  const nested = { ...inner, calls: { c1: call("c1", { ...inner, calls: { c2: call("c2", inner) } }) } };
  const state = readState(nested);
  const first = state.calls["c1"]!.state;
  for (const s of [state, first, first.calls["c2"]!.state])
    expect(s.requester).toEqual({ kind: "person", id: "una" });
  const started = { type: "request started", requester: "una", number: "N", data: {} };
  const within = { type: "in call", call: "c1", event: { type: "in call", call: "c2", event: started } };
  expect(readEvent(within, 2)).toMatchObject({
    event: { event: { requester: { kind: "person", id: "una" } } },
  });
  // A part of a large request tells nothing of who asked.
  expect(readPart({ tokens: {}, format: "cobble-step/state@6" })).toEqual({ tokens: {} });
});

it("tokens of a request from before know how many they wait for", () => {
  const token = (id: string, parent: string | null) => ({ id, step: "s", parent, branch: null });
  const tokens = {
    k1: token("k1", null),
    k2: token("k2", "k1"),
    k3: token("k3", "k1"),
    k4: token("k4", "k3"),
  };
  const now = readState({ ...(load("state@4") as object), tokens });
  expect(now.tokens).toEqual({
    ...tokens,
    k1: { ...tokens.k1, waitsFor: 2 },
    k3: { ...tokens.k3, waitsFor: 1 },
  });
});

it("a version nobody knows is not read as if it were known", () => {
  expect(() => readProcess({ ...(load("process@2") as object), format: "cobble-step/process@3" })).toThrow(
    "newest known is 2",
  );
  expect(() => readProcess({ format: "cobble-step/register@1" })).toThrow("is not a cobble-step/process");
  expect(() => readEvent({ type: "told" }, 7)).toThrow("newest known is 3");
});

it("a process sent in an older format is brought up to date; what is no process is left for its schema to refuse", () => {
  expect(sentProcess(load("process@1"))).toEqual(sentProcess(load("process@2")));
  const tag = { format: "cobble-step/process@1" };
  for (const odd of [
    null,
    7,
    "x",
    [],
    {},
    { format: "cobble-step/process@3" },
    { format: 1 },
    { ...tag, fields: 5 },
    { ...tag, route: [null] },
  ])
    expect(sentProcess(odd)).toEqual(odd);
});
