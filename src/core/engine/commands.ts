import type { FormData, FormProblem, Party, Passed } from "../form";
import type { Reply } from "../kinds";
import type { EffectKind } from "@/steps/shapes";
import type { EffectResult } from "./events";
import type { AnewChange, SeenAnew } from "./readAnew";
import type { StuckReason } from "./state";

/** What a request begins with that whoever asks did not fill in. */
export interface Given {
  data: FormData;
  /** The field that holds what it is about: nobody picks another there. */
  held: string | null;
}

/** What may be asked of a request. `actor` is a person; commands without one come from Cobble Step itself. */
export type Command =
  /**
   * `handed` where a step of another process starts it, with values for what is handed in; then nobody did it. `given`
   * where somebody pressed it on a record: what that fills in, below what they filled in themselves.
   */
  | {
      type: "start";
      actor: string | null;
      requester: Party;
      number: string;
      data: FormData;
      handed?: true;
      given?: Given;
      /** Why whoever asks goes on past checks that may be passed. */
      passed?: Passed;
    }
  | {
      type: "answer";
      actor: string;
      task: string;
      answer: string;
      note: string;
      data: FormData;
      /** The number of the last event this person saw the request after; absent where nobody looked at it. */
      seen?: number;
      /**
       * What they saw values come to that this answer reads anew, by path; true where it counts whatever that is, since
       * nobody is there who could look (samples).
       */
      anew?: SeenAnew | true;
      /** Why they go on past checks that may be passed. */
      passed?: Passed;
    }
  | { type: "take"; actor: string; task: string }
  | { type: "put back"; actor: string; task: string }
  /** Whoever was away has what their cover has not answered yet. */
  | { type: "take back"; actor: string; task: string }
  /** `back`: whoever gets it says what they would answer, and then it is with the one who handed it over again. */
  | { type: "hand over"; actor: string; task: string; to: string; note: string; back?: boolean }
  /** Whoever has a task asks somebody something beside it: `to` null for whoever asked for the request. */
  | { type: "ask"; actor: string; task: string; to: string | null; note: string }
  /** An owner of the process gives an open task to somebody else, and says why. */
  | { type: "reassign"; actor: string; task: string; to: string; note: string }
  | { type: "withdraw"; actor: string; note: string }
  | { type: "cancel"; actor: string; note: string }
  /** Whoever started it does not wait for it any more, and it was to end with that. */
  | { type: "call off" }
  | { type: "time reached"; timer: string }
  /** People who were asked may have left or gone away. */
  | { type: "ask others" }
  /** Something that is waited for may have come: a record changed. */
  | { type: "look" }
  /** Rounds are to be gone on with that a command before left off. */
  | { type: "go on" }
  | {
      type: "effect done";
      effect: { id: string; step: string; kind: EffectKind };
      result: EffectResult["result"];
      /** Ids of files that came of it, for what follows to read. */
      files?: readonly string[];
    }
  | { type: "effect failed"; effect: string; reason: StuckReason }
  /** What a step had sent did not reach somebody. `scope` is the round that asked, `to` whom, `why` in words. */
  | {
      type: "not delivered";
      effect: { id: string; step: string; scope: string | null };
      to: string;
      why: string;
    }
  /** What a step had sent was answered. `scope` is the round that sent it. */
  | { type: "replied"; effect: { id: string; step: string; scope: string | null }; reply: Reply }
  /** Files of a request that has ended were kept long enough: how many, and what they came to in bytes. */
  | { type: "remove files"; count: number; bytes: number }
  | { type: "retry"; actor: string; token: string }
  /** An owner asks whoever has a task to answer it. */
  | { type: "remind"; actor: string; task: string; note: string }
  /** An owner gives a visit another limit; its ladder falls on the days that belong to that. */
  | { type: "change limit"; actor: string; task: string; due: number; note: string }
  /** An owner says whom a step asks that found nobody. */
  | { type: "name"; actor: string; token: string; to: string; note: string }
  /**
   * An owner lets a token go on that is stuck, or whose people are waited for. Where the step decides something, `way`
   * says how it goes on; nothing is decided by leaving it out.
   */
  | { type: "skip"; actor: string; token: string; way: string | null; note: string };

/** Why a command was not carried out; nothing happened. Turned into a sentence where it is shown. */
export type Refusal =
  | { code: "form"; data: { problems: FormProblem[] } }
  /** Values this person saw have changed since; `fields` by name, a column with its line items. */
  | { code: "changed-since"; data: { fields: string[]; seq: number } }
  /** This answer reads values anew, which come to something else than whoever gives it has seen. */
  | { code: "read-anew"; data: { answer: string; changes: AnewChange[]; stays: string[] } }
  /** What checks ask of records was not looked for. */
  | { code: "records-unasked"; data: Record<never, never> }
  | { code: "unknown-task"; data: { task: string } }
  | { code: "already-answered"; data: { by: string | null; answer: string | null; at: number | null } }
  | { code: "taken-by-other"; data: { by: string } }
  | { code: "not-yours"; data: { task: string } }
  | { code: "unknown-answer"; data: { answer: string; answers: string[] } }
  | { code: "note-needed"; data: { answer: string } }
  | { code: "not-shared"; data: { task: string } }
  | { code: "same-person"; data: { person: string } }
  | { code: "own-request"; data: { person: string } }
  /** The step never asks them: they have answered another, say. */
  | { code: "kept-apart"; data: { person: string } }
  /** Whom the step never asks cannot be worked out. */
  | { code: "apart-unclear"; data: { step: string } }
  /** They are away, and whoever covers for them would be asked again at once. */
  | { code: "still-away"; data: { person: string } }
  /** Whoever signs answers by that: it is handed over for good. */
  | { code: "signs-for-good"; data: { task: string } }
  /** Nobody asks themselves, nor somebody who has left. */
  | { code: "cannot-ask"; data: { person: string } }
  /** Whoever asked for the request has no desk to be asked at. */
  | { code: "asker-outside"; data: { requester: Party } }
  /** They are asked something themselves. */
  | { code: "only-answers"; data: { task: string } }
  | { code: "too-many-questions"; data: { limit: number } }
  | { code: "ended"; data: { status: string } }
  | { code: "not-requester"; data: { requester: Party } }
  | { code: "already-started"; data: { number: string } }
  | { code: "not-stuck"; data: { token: string } }
  | { code: "asks-nobody"; data: { step: string } }
  | { code: "choose-way"; data: { step: string; ways: string[] } }
  /** `due` is a moment in milliseconds. */
  | { code: "bad-limit"; data: { due: number } };
