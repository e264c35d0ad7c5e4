import { compileRelease, type CompiledRelease } from "@/core/engine";
import { processes, type Db } from "@/db";
import { KINDS } from "@/kinds";
import { definitionNow } from "../kernel/definitionNow";
import type { Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";

// Releases never change; register shapes may, and formulas follow links into them.
const compiled = new Map<string, CompiledRelease>();
const MAX_KEPT = 60;

/** A release, compiled once per process and shape of the registers. */
export async function releaseFor(db: Db, d: Directory, id: string): Promise<CompiledRelease> {
  const key = `${id}@${shapesKey(d)}`;
  let r = compiled.get(key);
  if (!r) {
    const row = await processes.releaseById(db, id);
    if (!row) throw new Failed({ code: "not-found", data: { what: "release", id } });
    r = compileRelease(definitionNow(row, d.registers), d.registers, KINDS, id);
    if (compiled.size >= MAX_KEPT) compiled.delete(compiled.keys().next().value!);
    compiled.set(key, r);
  }
  return r;
}

const keys = new WeakMap<object, string>();
let lastKey = 0;
const byText = new Map<string, string>();
function shapesKey(d: Directory): string {
  let k = keys.get(d.registers);
  if (!k) {
    const text = JSON.stringify(d.registers);
    k = byText.get(text) ?? String(++lastKey);
    byText.set(text, k);
    keys.set(d.registers, k);
  }
  return k;
}
