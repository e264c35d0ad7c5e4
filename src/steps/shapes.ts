import type { Apply, ApplyNews, ApplyReason } from "./apply/shape";
import type { Bring, BringReason, BringResult, BringWork } from "./bring/shape";
import type { Choose, ChooseNews, ChooseReason } from "./choose/shape";
import type { Complete, SignReason, SignResult, SignWork } from "./complete/shape";
import type { Decide } from "./decide/shape";
import type { DrawUp, DrawUpReason, DrawUpResult, DrawUpWork } from "./draw-up/shape";
import type { Find, FindReason, FindResult, FindWork } from "./find/shape";
import type { Finish } from "./finish/shape";
import type { ForEach, ForEachNews, ForEachReason } from "./for-each/shape";
import type { HandTo } from "./hand-to/shape";
import type { Jump, JumpNews } from "./jump/shape";
import type {
  StartRequest,
  StartRequestReason,
  StartRequestResult,
  StartRequestWork,
} from "./start-request/shape";
import type { Part } from "./part/shape";
import type { Tell, TellResult, TellWork } from "./tell/shape";
import type { Together, TogetherNews } from "./together/shape";
import type { Wait, WaitNews, WaitReason } from "./wait/shape";
import type { WorkOut, WorkOutReason } from "./work-out/shape";
import type { Write, WriteReason, WriteResult, WriteWork } from "./write/shape";

/**
 * What each kind of step is made of; everything else about kinds of steps follows from these types.
 * shape: the step itself, generic in its lists of steps, so that core can tie the knot.
 * work, result: what it asks of the world and what comes back; inside or outside is said by its effect. waits:
 * whether the token stays until it is done. kept: whether it is kept with the request, so that it is done once asked.
 * gives: whether formulas read by its name what it came to. rounds: whether it goes through a list again and again.
 * sleeps: whether its token sleeps until a moment. calls: whether it goes through a procedure. begins: whether it starts
 * requests of other processes.
 * news: what it puts on the trail by itself. reason: why it may get stuck.
 */
export interface StepParts<List> {
  decide: { shape: Decide<List> };
  complete: { shape: Complete; work: SignWork; result: SignResult; waits: true; reason: SignReason };
  choose: { shape: Choose<List>; news: ChooseNews; reason: ChooseReason };
  together: { shape: Together<List>; news: TogetherNews };
  find: {
    shape: Find<List>;
    work: FindWork;
    result: FindResult;
    waits: true;
    gives: true;
    reason: FindReason;
  };
  "for each": {
    shape: ForEach<List>;
    news: ForEachNews;
    rounds: true;
    gives: true;
    reason: ForEachReason;
  };
  "hand to": { shape: HandTo; calls: true; gives: true };
  "start request": {
    shape: StartRequest;
    work: StartRequestWork;
    result: StartRequestResult;
    waits: true;
    gives: true;
    begins: true;
    reason: StartRequestReason;
  };
  "draw up": {
    shape: DrawUp;
    work: DrawUpWork;
    result: DrawUpResult;
    waits: true;
    gives: true;
    reason: DrawUpReason;
  };
  bring: { shape: Bring; work: BringWork; result: BringResult; waits: true; reason: BringReason };
  wait: { shape: Wait<List>; news: WaitNews; reason: WaitReason; sleeps: true; gives: true };
  write: {
    shape: Write;
    work: WriteWork;
    result: WriteResult;
    waits: true;
    gives: true;
    reason: WriteReason;
  };
  apply: { shape: Apply; news: ApplyNews; gives: true; reason: ApplyReason };
  "work out": { shape: WorkOut; gives: true; reason: WorkOutReason };
  tell: { shape: Tell<List>; work: TellWork; result: TellResult; kept: true; gives: true };
  jump: { shape: Jump; news: JumpNews };
  finish: { shape: Finish };
  part: { shape: Part<List> };
}

export type StepKind = keyof StepParts<never>;
export type ShapeOf<K extends StepKind, List> = StepParts<List>[K]["shape"];

/** Kinds that have a part, and the part by kind. */
type KindsWith<P extends string> = {
  [K in StepKind]: StepParts<never>[K] extends Record<P, unknown> ? K : never;
}[StepKind];
type PartOf<K extends StepKind, P extends string> = K extends StepKind
  ? StepParts<never>[K] extends Record<P, infer T>
    ? T
    : never
  : never;

export type EffectKind = KindsWith<"work">;
/** Kinds whose token waits for what they asked. */
export type WaitingKind = KindsWith<"waits">;
/** Kinds that give their name to what they came to. */
export type GivingKind = KindsWith<"gives">;
/** Kinds that go through a list again and again. */
export type RoundsKind = KindsWith<"rounds">;
/** Kinds whose token sleeps until a moment. */
export type SleepingKind = KindsWith<"sleeps">;
/** Kinds that go through a procedure. */
export type CallingKind = KindsWith<"calls">;
/** Kinds that start requests of other processes. */
export type BeginningKind = KindsWith<"begins">;
/** Kinds whose work is done by being kept with the request. */
export type KeptKind = KindsWith<"kept">;
export type WorkOf<K extends StepKind> = PartOf<K, "work">;
export type ResultOf<K extends StepKind> = PartOf<K, "result">;
export type NewsOf<K extends StepKind> = PartOf<K, "news">;
export type ReasonOf<K extends StepKind> = PartOf<K, "reason">;
export type StepWork = WorkOf<StepKind>;
export type StepNews = NewsOf<StepKind>;
export type StepReason = ReasonOf<StepKind>;
export type { WrittenRecord } from "./write/shape";
export type { BringWork } from "./bring/shape";
export type { ChatAsked, MailAsked } from "./tell/shape";
