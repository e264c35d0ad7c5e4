import type { z } from "zod";
import type { EffectOf, Turn } from "@/core/engine";
import type { Filled, TreeTag } from "@/core/document";
import type { Facts, RecordRef, Registers } from "@/core/form";
import type { SignedPaper, StoredValue } from "@/core/kinds";
import type { LabelSheet } from "@/core/paper";
import type { Fill, Must, RecordWrite, Wrote } from "@/core/records";
import type { Db } from "@/db";
import type {
  BeginningKind,
  BringWork,
  EffectKind,
  ChatAsked,
  KeptKind,
  MailAsked,
  ReasonOf,
  ResultOf,
} from "./shapes";

export interface EffectContext {
  /** The transaction it is carried out in. */
  db: Db;
  /** Application time, epoch milliseconds. */
  at: number;
  /** On whose behalf; null when nobody's in particular. */
  by: string | null;
  /** The request's number. */
  number: string;
  /** The request's id; null while it is being made. */
  request: string | null;
  stepName: string;
  registers: Registers;
  /** Whether a register may not be read by this process any more. */
  withdrawn(register: string): boolean;
  /** With what the form points at, and these records. */
  facts(also?: readonly RecordRef[]): Promise<Facts>;
  /** The request as it stands, for what formulas of the step read. */
  turn(): Promise<Turn>;
}

/** What is carried out inside may write records. */
export interface InsideContext extends EffectContext {
  /** By the one door; what is refused is said for each, and the others are written. */
  write(
    register: string,
    writes: readonly RecordWrite[],
    how: { must?: Must; fill?: Fill; quietly?: boolean },
  ): Promise<Wrote[]>;
}

/**
 * What came of it.
 * `records`: those that fields of the form may point at from now on, so that what follows can read them.
 */
export type CarriedOut<K extends EffectKind> =
  { ok: true; result: ResultOf<K>; records?: readonly RecordRef[] } | { ok: false; reason: ReasonOf<K> };

/** What an effect would come to, for who designs: the things it would be done with. */
export type Preview =
  { ok: true; things: string[]; count: number; more: boolean } | { ok: false; why: string };
/** What can be looked at without doing anything. */
export type LookingContext = Pick<EffectContext, "db" | "registers" | "withdrawn" | "facts" | "turn">;

/** Carried out in the transaction of the command that asked for it; the result is fed back at once. */
export interface InsideEffect<K extends EffectKind> {
  where: "inside";
  payload: z.ZodType<EffectOf<K>>;
  carryOut(effect: EffectOf<K>, ctx: InsideContext): Promise<CarriedOut<K>>;
  /** What it would come to, where that can be told without doing anything. */
  look?(effect: EffectOf<K>, ctx: LookingContext & Pick<EffectContext, "stepName">): Promise<CarriedOut<K>>;
  /** The same in words. */
  preview?(effect: EffectOf<K>, ctx: LookingContext): Promise<Preview>;
}

/** A notice to be kept with the request, once for each of these people. */
export interface KeptNotice {
  people: readonly string[];
  subject: string;
  text: string;
  /** Left on records beside it. */
  notes: readonly { register: string; id: string; text: string }[];
  /** To be sent by mail. */
  mail: MailAsked | null;
  /** To be sent to a chat room. */
  chat: ChatAsked | null;
  /** The notice goes by the ways its readers have chosen, too. */
  own: boolean;
  /** It reminds of what waits: those of one minute are one notice. */
  reminds: boolean;
}

/** Done once it is asked for: what it leaves is kept by the statement that saves the request. */
export interface KeptEffect<K extends KeptKind> {
  where: "kept";
  payload: z.ZodType<EffectOf<K>>;
  notice(effect: EffectOf<K>): KeptNotice;
}

/** A document to be drawn up. */
export interface AskedDocument {
  template: { sha256: string; name: string; tags: readonly TreeTag[] };
  /** What its files are called, without their ending. */
  called: string;
  as: "docx" | "pdf" | "both";
  filled: readonly Filled[];
}
/** A sheet of labels to be laid out, as PDF. */
export interface AskedLabels {
  labels: Pick<LabelSheet, "across" | "down" | "margin" | "labels">;
  called: string;
}
/** A document to be signed, by a signature that was given for its pages. */
export interface AskedSigned {
  signs: SignedPaper;
  /** Of the signature. */
  field: string;
}
/** A file that was made, of the request. */
export interface MadeFile {
  id: string;
  name: string;
  size: number;
  /** Of its contents, in hexadecimal. */
  sha256: string;
}

/**
 * A document, drawn up by a worker before the transaction that keeps it, at least once; its files are told by the effect's
 * id, so that they are kept once.
 */
export interface DocumentEffect<K extends EffectKind> {
  where: "document";
  payload: z.ZodType<EffectOf<K>>;
  /** How often it is tried. */
  attempts: number;
  asks(effect: EffectOf<K>): AskedDocument | AskedLabels | AskedSigned;
  /** @param pages of its PDF; null where it has none */
  came(files: readonly MadeFile[], pages: number | null): ResultOf<K>;
  /** Why it could not be drawn up, as the step's reason. @param step its name */
  failed(step: string, message: string): ReasonOf<K>;
}

/** Files to be brought to an outlet. */
export type AskedBringing = Pick<BringWork, "files" | "to" | "since">;

/**
 * Something done outside of the house by a worker, before the transaction that tells of it, at least once: by the effect's
 * id what was done already is known again there.
 */
export interface OutsideEffect<K extends EffectKind> {
  where: "outside";
  payload: z.ZodType<EffectOf<K>>;
  /** How often it is tried. */
  attempts: number;
  asks(effect: EffectOf<K>): AskedBringing;
  /** @param brought by file, what it is known by there: a path on the shelf, a job of the print room */
  came(brought: readonly string[], asked: AskedBringing): ResultOf<K>;
  /** Why it was not done, as the step's reason. @param step its name */
  failed(step: string, message: string): ReasonOf<K>;
}

/** A request to be started of another process. */
export interface AskedRequest {
  process: string;
  /** By field of that process. */
  values: readonly (readonly [string, StoredValue])[];
  /** Whether its end is waited for. */
  waits: boolean;
  /** Whether it is cancelled where nobody waits for it any more, or who started it came to an end before its time. */
  endsWith: boolean;
  /** Whether the process asks by itself, and not whoever asked for its request. */
  asProcess: boolean;
}
/** What came of it; result and values where its end was waited for. */
export interface CameOfRequest {
  number: string;
  result: string | null;
  values: readonly (readonly [string, StoredValue])[];
}

/**
 * Another request, started by a worker in a transaction of its own, so that never two are locked at once; it is started
 * once, however often that is tried. What comes of it is told to the one that asked as a command of its own.
 */
export interface RequestEffect<K extends BeginningKind & EffectKind> {
  where: "another request";
  payload: z.ZodType<EffectOf<K>>;
  /** How often it is tried. */
  attempts: number;
  asks(effect: EffectOf<K>): AskedRequest;
  came(of: CameOfRequest): ResultOf<K>;
  /** Why it could not be started, as the step's reason. @param step its name */
  failed(step: string, message: string): ReasonOf<K>;
}

export type Executor<K extends EffectKind> = K extends KeptKind
  ? KeptEffect<K>
  : K extends BeginningKind
    ? RequestEffect<K>
    : InsideEffect<K> | DocumentEffect<K> | OutsideEffect<K>;

/** The executor of an effect whose kind is not known. */
export type AnyExecutor =
  | InsideEffect<EffectKind>
  | KeptEffect<KeptKind>
  | DocumentEffect<EffectKind>
  | OutsideEffect<EffectKind>
  | RequestEffect<BeginningKind>;
