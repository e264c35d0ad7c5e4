import type { CompiledRelease, EngineFacts, OfficeData, SamplePath, Turn, ValueAfter } from "@/core/engine";
import type {
  FactsData,
  FileFacts,
  FormAnswer,
  FormData,
  FormQuestion,
  RegisterShape,
  SampleMail,
  StoredRecord,
} from "@/core/form";
import type { DocumentTag, DocumentTemplate, FirstOf, TemplateFile } from "@/core/document";
import type { Letter } from "@/core/letter";
import type { LiveProcedure } from "@/core/kinds";
import type { MailTaker, Problem, Sight } from "@/core/problems";
import type { StartPreview } from "@/core/records";
import type { Edit, EditClash, Ladder, ProcessDefinition, RefusedHere, Sample } from "@/core/route";
import type { LookUp } from "@/forms";
import type { ProblemsAt } from "./problemsByPlace";

export interface DraftStart {
  definition: ProcessDefinition;
  version: number;
  office: {
    data: OfficeData;
    departments: string[];
    registers: Record<string, RegisterShape>;
    /** What request numbers of other processes start with, by what those are called. */
    prefixes: Record<string, string>;
    /** What whoever designs it may see of registers. */
    sight: Sight;
    /** Starts of other processes that are live, by mail. */
    mailTakers: MailTaker[];
    /** Letters kept for all processes. */
    letters: { id: string; name: string; version: number; letter: Letter }[];
    /** The same of ladders. */
    ladders: { id: string; name: string; version: number; ladder: Ladder }[];
    /** The same of templates. */
    templates: { id: string; name: string; version: number }[];
    /** All other processes and procedures, by name. */
    others: { key: string; name: string }[];
    /** Procedures that are live, and processes that are and let others start their requests. */
    procedures: (LiveProcedure & { id: string; definition: ProcessDefinition | null })[];
  };
  facts: FactsData;
  now: number;
}
/** An edit of somebody else, as the server applied it. */
export interface TheirEdit {
  version: number;
  edit: Edit;
  by: string | null;
}
export type StepPreview =
  { ok: true; things: string[]; count: number; more: boolean } | { ok: false; why: string };
/** Values after steps; by step how many more there are; why something could not be searched for. */
export interface SampleValuesShown {
  values: readonly ValueAfter[];
  more: Readonly<Record<string, number>>;
  whys: readonly string[];
}
type Said = { ok: false; sentence: string; code: string };
/** A file that was brought in as a template, or why it could not be. */
export type Brought =
  { ok: true; value: { file: TemplateFile; tags: DocumentTag[]; notes: readonly string[] } } | Said;
/** A finished document, and by tag what it came to. */
export interface DocumentShown {
  pages: ArrayBuffer;
  first: readonly (FirstOf | null)[];
}
export interface VersionShown {
  id: string;
  file: TemplateFile;
  tags: readonly DocumentTag[];
  by: string | null;
  at: number;
}
type TakenFrom = NonNullable<DocumentTemplate["from"]>;
/** Where templates are kept. Each is told by the id it has, or is to have, in the draft. */
interface DocumentKeeper {
  bring(document: string, file: File): Promise<Brought>;
  /** Makes one of the form. */
  first(document: string): Promise<Brought>;
  /** Keeps one for all processes. */
  keepForAll(document: string): Promise<{ ok: true; value: TakenFrom } | Said>;
  /** Brings in one that is kept for all. */
  take(
    document: string,
    kept: string,
  ): Promise<
    { ok: true; value: Pick<DocumentTemplate, "name" | "file" | "tags"> & { from: TakenFrom } } | Said
  >;
  versions(document: string): Promise<{ ok: true; value: readonly VersionShown[] } | Said>;
  /** The finished document of the draft as it is kept, as a PDF; without a sample where that is empty. */
  pages(document: string, sample: string): Promise<{ ok: true; value: DocumentShown } | Said>;
  /** Where the template itself is read, its tags as they say by now. */
  fileAt(document: string): string;
  /** Where the finished document is read. */
  docxAt(document: string, sample: string): string;
}

/** Where a draft is kept. */
export interface DraftKeeper {
  /** Puts edits behind whatever others did since `base`; code "stale-draft" where both changed the same. */
  save(
    base: number,
    edits: Edit[],
  ): Promise<{ ok: true; value: { version: number; theirs: TheirEdit[] } } | Said>;
  /** What others did after a version; null where only opening the draft anew will do. */
  since(version: number): Promise<{ ok: true; value: { edits: TheirEdit[] | null } } | Said>;
  /** What a step of the draft as it is kept would do for a sample, with nothing done; null where nobody can tell. */
  /** What the form asks over a sample, at a step. */
  ask(sample: string, step: string, data: FormData, question: FormQuestion): Promise<FormAnswer>;
  preview(step: string, sample: string): Promise<{ ok: true; value: StepPreview | null } | Said>;
  /** Which of today's records a start of the draft as it is kept would take; null of one that asks nothing of records. */
  starting(start: string): Promise<{ ok: true; value: StartPreview | null } | Said>;
  /** The values after each step of the draft as it is kept, for a sample that goes through it. */
  values(sample: string): Promise<{ ok: true; value: SampleValuesShown | null } | Said>;
  /** Mails that came to the process, the newest. */
  mails(): Promise<{ ok: true; value: { id: string; from: string; subject: string; at: number }[] } | Said>;
  /** One of these by its id, or one that was kept as a file, as a sample keeps it. */
  mail(from: string | File): Promise<{ ok: true; value: SampleMail } | Said>;
  /** Keeps a letter of the draft as it is kept for all processes; gives what it is of from then on. */
  keepLetter(letter: string): Promise<{ ok: true; value: { letter: string; version: number } } | Said>;
  /** The same of a ladder. */
  keepLadder(ladder: string): Promise<{ ok: true; value: { ladder: string; version: number } } | Said>;
  documents: DocumentKeeper;
  /** Opens it anew. */
  reload(): void;
}

/** What somebody is asked who changed the same as somebody else. */
export interface Asked {
  clashes: readonly EditClash[];
  refused: readonly RefusedHere[];
  /** Who else. */
  by: string[];
  /** Goes on with mine for all clashes but those of these paths; what is refused is left out. */
  settle(theirs: readonly EditClash[]): void;
}

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
  /** Whether the server has not got all of it yet. */
  unsaved: boolean;
  said: string;
  /** Something to be known that is no refusal. */
  told: string;
  tell(sentence: string): void;
  /** While both changed the same and it is not settled. */
  asked: Asked | null;
  hush(): void;
  problems: Problem[];
  /** The problems of one row; the same list while they do not change. */
  problemsAt: ProblemsAt;
  /** Of the definition as last settled: it lags a little behind fast typing. */
  release: CompiledRelease;
  preview: DraftKeeper["preview"];
  ask: DraftKeeper["ask"];
  values: DraftKeeper["values"];
  starting: DraftKeeper["starting"];
  keepLetter: DraftKeeper["keepLetter"];
  keepLadder: DraftKeeper["keepLadder"];
  documents: DocumentKeeper;
  mails: DraftKeeper["mails"];
  mail: DraftKeeper["mail"];
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
