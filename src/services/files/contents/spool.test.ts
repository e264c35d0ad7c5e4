import { createHash } from "node:crypto";
import { existsSync, readdirSync, utimesSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { inParts } from "./inParts";
import { Spool } from "./spool";

const left = (n: number) => join(tmpdir(), `cobble-${String(n).padStart(24, "0")}`);
const names = () => new Set(readdirSync(tmpdir()).filter((x) => /^cobble-[0-9a-f]{24}$/.test(x)));

it("what comes is on the disk until it is dropped, and can be read as often as is needed", async () => {
  const [old, other] = [left(1), left(2)];
  for (const path of [old, other]) writeFileSync(path, "left");
  const hours = new Date(Date.now() - 2 * 3_600_000);
  utimesSync(old, hours, hours);
  const before = names();
  const spool = await Spool.begin();
  // What a killed process left is gone, what may still be written is not.
  expect([existsSync(old), existsSync(other)]).toEqual([false, true]);
  for (const part of ["oar", "", "net"]) await spool.take(Buffer.from(part));
  const { sha256, size, parts } = spool.whole();
  expect([sha256, size]).toEqual([createHash("sha256").update("oarnet").digest("hex"), 6]);
  for (let i = 0; i < 2; i++) {
    let read = "";
    for await (const part of parts()) read += part.toString();
    expect(read).toBe("oarnet");
  }
  await spool.drop();
  before.delete(old.slice(tmpdir().length + 1));
  expect([...names()].filter((x) => !before.has(x))).toEqual([]);
});

it.each([
  [[], 4, []],
  [["abcd"], 4, ["abcd"]],
  [["a", "b", "cde"], 2, ["ab", "cd", "e"]],
  [["abcdefghij"], 3, ["abc", "def", "ghi", "j"]],
  [["", "abc", "", "d", ""], 4, ["abcd"]],
])("%j in parts of %d", async (given, size, want) => {
  const from = async function* () {
    for (const x of given) yield Buffer.from(x);
  };
  const out: string[] = [];
  for await (const part of inParts(from(), size)) out.push(part.toString());
  expect(out).toEqual(want);
});
