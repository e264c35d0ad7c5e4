import type { Access, Field, StepForm } from "../form";
import type { DocumentTemplate } from "../document";
import type { Letter } from "../letter";
import type { Ladder, Rung } from "./asking";
import type { ProcessDefinition, Sample, Start, Step } from "./definition";

/** A list of steps: the route itself (owner null), or the list of an answer, way or branch. */
export interface ListRef {
  owner: string | null;
  list: string | null;
}

/** Some properties of something; a value of null takes the property away. */
export type Patch = Readonly<Record<string, unknown>>;
/** An answer, a way, a branch: whatever holds a list of steps. */
export type HeldList = { id: string; steps: Step[] } & Patch;

/**
 * A small change of a draft. Each has an inverse, so undo, autosave, comparing and pasting are one mechanism.
 * Edits change single properties and name the neighbour they stand behind (`after`, null for the first place),
 * never a position, so that the edits of two people can be put one after the other.
 */
export type Edit =
  | {
      op: "process.set";
      patch: {
        [
          K in
            | "name"
            | "purpose"
            | "title"
            | "numbering"
            | "owners"
            | "calendar"
            | "mailbox"
            | "listed"
            | "keepPersonalDays"
            | "keepFilesDays"
            | "mentions"
            | "limit"
        ]?: ProcessDefinition[K] | null;
      };
    }
  /** A whole definition in place of the draft; its key stays. */
  | { op: "process.replace"; definition: ProcessDefinition }
  /** Adds a start or replaces the one of the same id, which stays where it is. */
  | { op: "start.put"; after: string | null; start: Start }
  | { op: "start.remove"; id: string }
  | { op: "start.move"; id: string; after: string | null }
  /** Adds a letter or replaces the one of the same id, which stays where it is. */
  | { op: "letter.put"; after: string | null; letter: Letter }
  | { op: "letter.remove"; id: string }
  | { op: "letter.move"; id: string; after: string | null }
  /** Adds a ladder or replaces the one of the same id, which stays where it is. */
  | { op: "ladder.put"; after: string | null; ladder: Ladder }
  | { op: "ladder.remove"; id: string }
  /** Adds a template or replaces the one of the same id, which stays where it is. */
  | { op: "document.put"; after: string | null; document: DocumentTemplate }
  | { op: "document.remove"; id: string }
  | { op: "document.move"; id: string; after: string | null }
  | { op: "field.add"; parent: string | null; after: string | null; field: Field }
  | { op: "field.remove"; id: string }
  | { op: "field.move"; id: string; parent: string | null; after: string | null }
  | {
      op: "field.set";
      id: string;
      patch: { [K in Exclude<keyof Field, "id" | "name" | "fields">]?: Field[K] | null };
    }
  | { op: "field.rename"; id: string; name: string }
  /** Columns of a register are called otherwise, and formulas that read them go along; what cannot be followed stays. */
  | { op: "columns.rename"; register: string; columns: { id: string; from: string; to: string }[] }
  /** Texts as they were: takes a rename back where renaming again would not give the same. */
  | {
      op: "texts.restore";
      title: string;
      starts: Start[];
      fields: Field[];
      route: Step[];
      letters?: Letter[];
      ladders?: Ladder[];
      documents?: DocumentTemplate[];
    }
  | { op: "access.set"; step: string; field: string; access: Access | null }
  /** What of the form is shown at a step (or "start"), property by property; null takes one away. */
  | { op: "form.set"; step: string; patch: { [K in keyof StepForm]?: StepForm[K] | null } }
  | { op: "step.add"; to: ListRef; after: string | null; step: Step }
  | { op: "step.remove"; id: string }
  | { op: "step.move"; id: string; to: ListRef; after: string | null }
  /** Properties of a step; its id, kind and lists have edits of their own. */
  | { op: "step.set"; id: string; patch: Patch }
  /** What holds a list of steps: an answer, a way, a branch. */
  | { op: "list.add"; step: string; after: string | null; list: HeldList }
  | { op: "list.remove"; step: string; list: string }
  | { op: "list.move"; step: string; list: string; after: string | null }
  | { op: "list.set"; step: string; list: string; patch: Patch }
  | { op: "rung.add"; step: string; after: string | null; rung: Rung }
  | { op: "rung.remove"; step: string; rung: string }
  | {
      op: "rung.set";
      step: string;
      rung: string;
      patch: { [K in Exclude<keyof Rung, "id">]?: Rung[K] | null };
    }
  | { op: "sample.put"; after: string | null; sample: Sample }
  | { op: "sample.remove"; id: string }
  | { op: "batch"; edits: Edit[] };

export type EditRefusal =
  | {
      code:
        | "unknown-field"
        | "unknown-step"
        | "unknown-list"
        | "unknown-sample"
        | "unknown-start"
        | "unknown-letter"
        | "unknown-document"
        | "unknown-ladder"
        | "unknown-rung";
      data: { id: string };
    }
  | { code: "unknown-neighbour"; data: { id: string } }
  | { code: "fixed-property"; data: { id: string; property: string } }
  | { code: "no-lists"; data: { id: string } }
  | { code: "holds-none"; data: { name: string } }
  | { code: "duplicate-id"; data: { id: string } }
  | { code: "into-itself"; data: { id: string } }
  /** A step of its kind has no fewer of these. */
  | { code: "least-lists"; data: { one: string; least: number } }
  | { code: "other-key"; data: { key: string } }
  /** A process put in the place of a procedure, or the other way round. */
  | { code: "other-sort"; data: { procedure: boolean } }
  | { code: "bad-name"; data: { name: string; why: string } }
  | { code: "name-taken"; data: { name: string } }
  /** A formula would come to mean something else, because a name it reads would lead to another thing. */
  | {
      code: "other-meaning";
      data: {
        deed: "added" | "moved" | "taken away";
        name: string;
        reads: string;
        says: string;
        formula: string;
        from: number;
        to: number;
      };
    }
  /** A formula would come to mean something else, or what it means is known only when it runs. */
  | {
      code: "rename-unclear";
      data: { name: string; says: string; formula: string; from: number; to: number; why: string };
    };

export type EditResult =
  { ok: true; definition: ProcessDefinition; inverse: Edit } | { ok: false; refusal: EditRefusal };
