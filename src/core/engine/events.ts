import type { EffectKind, ResultOf, StepNews } from "@/steps/shapes";
import type { Clause } from "../expression";
import type { FormData, Party, SignedDocument } from "../form";
import type { Kept, StoredValue } from "../kinds";
import type { RungKind, Tone } from "../route";
import type { Effect } from "./effects";
import type {
  Call,
  Candidate,
  Outsider,
  Run,
  Sleep,
  Span,
  StuckReason,
  Task,
  Timer,
  Token,
  Visit,
  WatchedRecord,
} from "./state";

/** What came of an effect, by the kind that asked for it. */
export type EffectResult = { [K in EffectKind]: { kind: K; result: ResultOf<K> } }[EffectKind];

/** What happened. Bodies hold everything `evolve` and the trail need; nothing is looked up later. */
export type EventBody =
  /**
   * `began` is when the request did, where this is a procedure it has come to; `handed` where a step of another process
   * handed it its values.
   */
  | {
      type: "request started";
      requester: Party;
      number: string;
      data: FormData;
      began?: number;
      handed?: true;
    }
  /** `anew` where they were read anew with an answer: the ids of the fields and columns that it names. */
  | { type: "data changed"; data: FormData; task?: string; anew?: string[] }
  /**
   * Somebody signed, with the values that the event before it told of. `hash` as `fingerprint` makes it; `document` is the
   * file whose pages they were shown, at which step and in which round.
   */
  | {
      type: "signed";
      field: string;
      value: string;
      fields: string[];
      hash: string;
      document?: SignedDocument;
      task?: string;
    }
  /** Somebody went on past a check that may be passed; `note` is why, `fields` what the check reads. */
  | { type: "check passed"; key: string; say: string; note: string; fields: string[]; task?: string }
  | {
      type: "token placed";
      token: string;
      step: string;
      parent: string | null;
      branch: string | null;
      /** Steps that whoever handed over went through since anybody was waited for. */
      moves?: number;
    }
  /** `moves` counts the steps since anybody was waited for. */
  | { type: "token moved"; token: string; step: string; moves?: number }
  | { type: "branch ended"; token: string; step: string }
  /** What a kind of step has to say for itself; it changes nothing of the state. */
  | { type: "step did"; step: string; did: StepNews }
  | { type: "values set"; step: string; data: FormData }
  /** What the step found or gathered, read by its name from now on. */
  | { type: "records kept"; step: string; records: Kept }
  | { type: "run opened"; run: Omit<Run, "next" | "open" | "ended" | "calledOff" | "collected"> }
  /** `token` goes through it; `name` is what it is about, empty where that cannot be said to everybody. */
  | {
      type: "round opened";
      run: string;
      token: string;
      step: string;
      index: number;
      of: number;
      /** What one calls a round: "Object". */
      one: string;
      name: string;
    }
  /** Its token has come to the end; `left` is what it leaves behind. */
  | { type: "round ended"; run: string; token: string; step: string; left?: StoredValue }
  /** What it goes over is not there any more: it was not opened. */
  | { type: "round left out"; run: string; step: string; index: number }
  /** No more rounds are opened: enough is known. */
  | { type: "run closing"; run: string; step: string }
  | { type: "run parked"; run: string; step: string }
  | { type: "run went on"; run: string; step: string }
  | { type: "run ended"; run: string; step: string }
  /** It is not gone on with, and whatever it waited for is waited for no more. */
  | { type: "token called off"; token: string; step: string; why: "enough" | "gone" }
  /** Somebody is to be asked for something, and the route goes on meanwhile. */
  | {
      type: "errand placed";
      token: string;
      step: string;
      parent: string;
      atEnd: NonNullable<Token["errand"]>;
    }
  /** What it was placed beside has ended; it goes on beside what is around that. */
  | { type: "errand kept"; token: string; step: string; parent: string }
  /** A branch nobody waits for any more: it goes on beside what follows. */
  | { type: "branch let go"; token: string; step: string }
  /** A procedure is entered. */
  | { type: "call opened"; call: Omit<Call, "state" | "over"> }
  /** What happened in it, numbered by itself. */
  | { type: "in call"; call: string; event: RequestEvent }
  /** It has come to its end; `moves` as that of its token. */
  | { type: "call ended"; call: string; token: string; step: string; result: string; moves: number }
  | { type: "call called off"; call: string; step: string }
  | { type: "fell asleep"; sleep: Sleep }
  /** The moment has come, or an owner lets it go on; `came` where what it waited for has. */
  | { type: "woke"; sleep: string; token: string; step: string; came?: true }
  /** What it waits for has not come yet, and is told by other records now. */
  | { type: "looked"; sleep: string; token: string; step: string; watches: readonly WatchedRecord[] }
  | { type: "visit opened"; visit: Visit; why?: Clause[] }
  /** Somebody outside is about to be asked; `account` is theirs in this request. */
  | ({ type: "outsider named"; account: string } & Outsider)
  | { type: "task opened"; task: Task }
  /** It is somebody else's turn of those who are asked one after another; `asked` and `due` are what they are then. */
  | {
      type: "next asked";
      visit: string;
      step: string;
      rest: readonly string[];
      asked: number;
      due: number | null;
      clock?: true;
    }
  | { type: "task taken"; task: string }
  | { type: "task put back"; task: string }
  /** `gone`: nobody handed it over; whoever was asked is not there. */
  | {
      type: "task handed over";
      task: string;
      to: Candidate[];
      note: string;
      rung?: string;
      gone?: Gone;
      /** Who gets it back, as `Task.back`. */
      back?: readonly string[];
    }
  /** Whoever it was handed to says what they would answer, and `to` has it again; `back` as `Task.back`. */
  | {
      type: "answer proposed";
      task: string;
      answer: string;
      label: string;
      note: string;
      for?: string;
      to: Candidate[];
      back?: readonly string[];
    }
  | { type: "decider added"; task: Task; rung: string }
  | {
      type: "answer given";
      task: string;
      answer: string;
      label: string;
      note: string;
      for?: string;
      automatic?: true;
    }
  | { type: "task closed"; task: string; reason: "decided" | "ended" | "returned" | "enough" | "gone" }
  /** Whoever it was for is not there, and nobody answers in their place. */
  | { type: "task closed"; task: string; reason: "left" }
  /** All who were asked have left. */
  | { type: "visit given up"; visit: string; step: string }
  /** Whoever it went to has a vote already, by another task. */
  | { type: "task closed"; task: string; reason: "merged"; into: string }
  /** `given` counts the answers that came in; with one, the answer itself says it all. */
  | {
      type: "step decided";
      visit: string;
      step: string;
      answer: string;
      label: string;
      note: string;
      given: number;
    }
  | { type: "returned for changes"; visit: string; step: string; note: string }
  | { type: "changes sent"; visit: string; step: string }
  /** `token` waits for it; null where nobody does. */
  | { type: "effect asked"; token: string | null; effect: Effect }
  | ({ type: "effect done"; effect: string; step: string } & EffectResult)
  | { type: "effect failed"; effect: string; step: string; reason: StuckReason }
  /** What had been sent did not reach somebody; whoever sent it has gone on. */
  | { type: "not delivered"; effect: string; step: string; to: string; why: string }
  /**
   * A list of a step is gone through by a token of its own, though the step was left long ago. `round` is the one it
   * belongs to, null where that is the request's or has ended; the token stands beside all and goes no further.
   */
  | { type: "list sent out"; token: string; step: string; of: string; list: string; round: string | null }
  /** The limit of a part, or of the whole, begins to run; `unclear`: it cannot be worked out, and there is none. */
  | { type: "span opened"; span: Span; why?: Clause[]; unclear?: StuckReason }
  | { type: "span closed"; span: string; step: string }
  | { type: "timer set"; timer: Timer }
  | { type: "timer cleared"; timer: string }
  | {
      type: "rung fired";
      timer: string;
      visit: string;
      step: string;
      rung: string;
      did: RungKind;
      found: boolean;
      /** What must hold for it did not. */
      unmet?: true;
      /** Why it could not be told whom. */
      unclear?: StuckReason;
    }
  | { type: "got stuck"; token: string; step: string; reason: StuckReason; effect?: string }
  | { type: "got unstuck"; token: string; step: string; how: "retried" | "chosen" | "named"; note?: string }
  /** As requests had it before an owner had to choose the way. */
  | { type: "got unstuck"; token: string; step: string; how: "skipped" }
  /** An owner let it go on; `label` names the way where the step decides something. */
  | { type: "way chosen"; token: string; step: string; way: string | null; label: string; note: string }
  | { type: "reminded"; task: string; note: string }
  /** Whoever has a task asks somebody something beside it; `note` is what. */
  | { type: "question asked"; visit: Visit; task: Task; note: string }
  /** Its answer is told by that; else it is not waited for any more. */
  | { type: "question ended"; visit: string; step: string }
  /** The limit of a visit stands still, because somebody is asked something. `left` as in `StoppedLimit`. */
  | { type: "limit stopped"; visit: string; step: string; left: readonly string[] }
  | { type: "limit goes on"; visit: string; step: string; due: number | null }
  /** `was`: until when it went before; absent where there was none, or it was changed before that was kept. */
  | { type: "limit changed"; visit: string; step: string; due: number; was?: number; note: string }
  | { type: "request finished"; step: string; result: string; tone: Tone }
  /** Personal values were made empty in all events before this one. */
  | { type: "values blanked" }
  /** They were kept as long as the process says. Their names would tell whoever does not see the fields they stood in. */
  | { type: "files removed"; count: number; bytes: number }
  | { type: "request withdrawn"; note: string }
  /** `calledOff`: it was not waited for any more by whoever had started it. */
  | { type: "request cancelled"; note: string; calledOff?: true };

/**
 * An event with its place in the request's history. `by` is null when Cobble Step itself acted; `scope` is the round in
 * which it happened, absent outside of all rounds.
 */
/** Why whoever was asked is asked no more: they left, are away, or have answered a step that keeps them from this one. */
export type Gone = "left" | "away" | "apart";

export type RequestEvent = EventBody & { seq: number; at: number; by: string | null; scope?: string };
