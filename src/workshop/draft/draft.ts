import type { CompiledRelease, EngineFacts, OfficeData, SamplePath, Turn } from "@/core/engine";
import type { FactsData, FileFacts, RegisterShape, StoredRecord } from "@/core/form";
import type { Problem } from "@/core/problems";
import type { Edit, ProcessDefinition, Sample } from "@/core/route";
import type { LookUp } from "@/forms";
import type { ProblemsAt } from "./problemsByPlace";

export interface DraftStart {
  definition: ProcessDefinition;
  version: number;
  office: { data: OfficeData; departments: string[]; registers: Record<string, RegisterShape> };
  facts: FactsData;
  now: number;
}
export type SaveEdits = (
  base: number,
  edits: Edit[],
) => Promise<{ ok: true; value: { version: number } } | { ok: false; sentence: string; code: string }>;

export interface Draft {
  definition: ProcessDefinition;
  office: DraftStart["office"];
  live: string | null;
  now: number;
  /** Applies an edit; gives false, and says why in `said`, when it cannot be. */
  edit(e: Edit): boolean;
  undo(): void;
  redo(): void;
  canUndo: boolean;
  canRedo: boolean;
  saving: string;
  said: string;
  hush(): void;
  problems: Problem[];
  /** The problems of one row; the same list while they do not change. */
  problemsAt: ProblemsAt;
  /** Of the definition as last settled: it lags a little behind fast typing. */
  release: CompiledRelease;
  sample: Sample | null;
  setSample(id: string): void;
  facts: EngineFacts;
  factsData: FactsData;
  learn(register: string, record: StoredRecord): void;
  learnFile(file: FileFacts): void;
  lookUp: LookUp;
  /** The chosen sample as a request that has just been made. */
  turn: Turn | null;
  path: SamplePath | null;
}
