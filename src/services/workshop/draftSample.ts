import { compileRelease, type CompiledRelease } from "@/core/engine";
import { sampleMailFiles, type FactsData, type Registers } from "@/core/form";
import type { Sample } from "@/core/route";
import { processes, type Db, type DraftRow } from "@/db";
import { KINDS } from "@/kinds";
import type { Call } from "../kernel/defineUseCase";
import { nowMs } from "../kernel/clock";
import { loadDirectory, type Directory } from "../kernel/directory";
import { registersSeen } from "../kernel/registersSeen";
import { Failed } from "../kernel/failure";
import { mustDesign } from "./mustDesign";

/** A draft as it is kept, made ready to be tried on one of its samples. */
export interface DraftSample {
  row: DraftRow;
  sample: Sample;
  d: Directory;
  /** The registers whoever tries it may see, as they see them: nothing else is read for them. */
  seen: Registers;
  release: CompiledRelease;
  now: number;
}

/**
 * For whoever may design the process; null where it has no such sample.
 * @param none stands for a sample where the process has none at all
 */
export async function draftSample(
  c: Call,
  db: Db,
  key: string,
  sampleId: string,
  none: Sample | null = null,
): Promise<DraftSample | null> {
  await mustDesign(c, db, key);
  const row = await processes.draftOf(db, key);
  if (!row) throw new Failed({ code: "not-found", data: { what: "process", id: key } });
  const { samples } = row.definition;
  const sample = samples.find((s) => s.id === sampleId) ?? (samples.length === 0 ? none : null);
  if (!sample) return null;
  const d = await loadDirectory(db);
  const seen = registersSeen(d, c.actor);
  const release = compileRelease(row.definition, seen, KINDS);
  return { row, sample, d, seen, release, now: await nowMs(db) };
}

/** What is read for a sample, with the files of the mail it is of. */
export const withSampleMail = (sample: Sample, facts: FactsData): FactsData => ({
  ...facts,
  files: { ...facts.files, ...sampleMailFiles([sample]) },
});
