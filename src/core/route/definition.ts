import type { Start } from "@/starts/shapes";
import type { ShapeOf, StepKind } from "@/steps/shapes";
import type { Access, Field, FormData, SampleMail, StepForm } from "../form";
import type { Ladder, Limit } from "./asking";
import type { Listed } from "./listed";
import type { DocumentTemplate } from "../document";
import type { Letter } from "../letter";

export type { Rule, RuleKind } from "@/rules/shapes";
export type { RungAction, RungKind } from "@/rungs/shapes";
export type { Start, StartKind, StartOf } from "@/starts/shapes";
export type { EffectKind, StepKind } from "@/steps/shapes";
export type {
  AnswerChoice,
  AskMail,
  Asks,
  FormulaLength,
  Assignment,
  Ladder,
  Limit,
  LimitFrom,
  LimitRule,
  Offer,
  RuleLength,
  Rung,
  Signing,
  Tone,
  Turns,
} from "./asking";
export { ASK_MAIL_PLACES, asksBy, LIMIT_PLACES, offerPlace, rungPlaces } from "./asking";

/** Here core ties the knot: the lists inside a step are lists of steps. */
export type Step = ShapeOf<StepKind, Step[]>;
export type StepOf<K extends StepKind> = ShapeOf<K, Step[]>;

export interface Sample {
  id: string;
  name: string;
  requester: string;
  data: FormData;
  /** What it began with, where it is of a mail. */
  mail?: SampleMail;
}

/** Access by step id (or "start"), then field id. What is not said: edit at the start, see elsewhere. */
export type AccessTable = Readonly<Record<string, Readonly<Record<string, Access>>>>;

export interface ProcessDefinition {
  format: "cobble-step/process@2";
  key: string;
  name: string;
  purpose: string;
  owners: string[];
  numbering: { prefix: string; digits: number };
  /** Text with {formulas}, shown wherever the request is listed. */
  title: string;
  starts: Start[];
  fields: Field[];
  access: AccessTable;
  route: Step[];
  /** By step id (or "start"): what of the form is shown there, and how. */
  forms?: Readonly<Record<string, StepForm>>;
  /** Key of a working calendar; the office's when absent. */
  calendar?: string;
  /** Address of the mailbox its mail goes out from, and replies come to. */
  mailbox?: string;
  /** Where it stands among the forms that can be asked for. */
  listed?: Listed;
  /** Texts kept to be sent by steps, and by hand. */
  letters?: Letter[];
  /** Ladders that limits of several steps go by. */
  ladders?: Ladder[];
  /** Templates from which steps draw up documents. */
  documents?: DocumentTemplate[];
  /** Days after its end for which a request keeps its personal values; for good when absent. */
  keepPersonalDays?: number;
  /** Days after its end for which a request keeps its files; for good when absent. */
  keepFilesDays?: number;
  /** Whoever is mentioned by @ in a note is told, and may look at the request as it was sent. */
  mentions?: true;
  /** By when the whole request is to be done, from when it was made. */
  limit?: Limit;
  samples: Sample[];
  /** Other processes hand to it; nobody asks for it. It has no starts, and its fields say what is handed in and back. */
  procedure?: true;
}

/** Where the form is sent: the step id by which its access is kept. */
export const START = "start";
