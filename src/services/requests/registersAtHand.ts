import type { CompiledRelease, ProceduresRead } from "@/core/engine";
import type { Registers } from "@/core/form";
import { columnsRead, registersRead } from "@/core/problems";
import { KINDS } from "@/kinds";
import type { Directory } from "../kernel/directory";

/** What a release reads of registers; a release is compiled anew where their shapes change. */
const kept = new WeakMap<CompiledRelease, Readonly<Record<string, readonly string[]>>>();
function readBy(release: CompiledRelease, registers: Registers) {
  let read = kept.get(release);
  if (!read) kept.set(release, (read = columnsRead(release.definition, { registers, kinds: KINDS })));
  return read;
}

/**
 * The registers with the columns that a request may read, in procedures too: no others are fetched of its records, and
 * no link is followed that nothing reads.
 */
export const registersAtHand = (
  d: Directory,
  release: CompiledRelease,
  { releases }: Pick<ProceduresRead, "releases">,
): Registers =>
  registersRead(
    d.registers,
    [release, ...releases.values()].map((r) => readBy(r, d.registers)),
  );
