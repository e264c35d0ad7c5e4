import { whyUnavailable } from "./unavailable";

it.each<[object, string | null]>([
  [{ code: "ECONNREFUSED" }, "unreachable"],
  [{ errors: [{ code: "ENOENT" }, { code: "ECONNREFUSED" }] }, "unreachable"],
  [{ code: "ENOENT", syscall: "connect" }, "unreachable"],
  [{ code: "08006" }, "unreachable"],
  [{ code: "57P01" }, "unreachable"],
  [new Error("Connection terminated unexpectedly"), "unreachable"],
  [new Error("timeout exceeded when trying to connect"), "busy"],
  [{ code: "53300" }, "busy"],
  [{ code: "40P01" }, "busy"],
  [{ code: "53100" }, "full"],
  [{ code: "25006" }, "read-only"],
  [{ code: "57014" }, "slow"],
  // Files that are not there, broken constraints and bugs are not the database's being away.
  [{ code: "ENOENT", syscall: "open" }, null],
  [{ code: "23505" }, null],
  [{ code: "constructor" }, null],
  [new Error("x is not a function"), null],
])("%j is %s", (e, why) => expect(whyUnavailable(e)).toBe(why));
it.each([null, undefined, "text", 5])("%j is nothing of the kind", (e) =>
  expect(whyUnavailable(e)).toBeNull(),
);
