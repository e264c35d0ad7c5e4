import type { Filled, TreeTag } from "@/core/document";
import type { Label } from "@/core/paper";
import type { StepBase } from "@/core/route/stepBase";

/** Draws up a document from a template, or a sheet of labels; its file is read by the name of the step. */
export interface DrawUp extends StepBase {
  kind: "draw up";
  /** Id of a template of the process; empty until one is chosen. */
  document: string;
  /** A text with {formulas}: what the file is called, without its ending. */
  called: string;
  as: DrawnAs;
  /** A sheet of labels, as PDF, and not what a template comes to. */
  labels?: LabelsOf;
  /** Id of a field for files that keeps what was drawn up: in the place of the one that was there, or beside others. */
  into?: string;
}
/** Of both, the PDF is the first. */
export type DrawnAs = "docx" | "pdf" | "both";

/** Labels for the things of a list, one each. */
export interface LabelsOf {
  /** A formula for the list; none come of nothing. */
  of: string;
  /** Texts with {formulas}, which read what a thing has by its own names: in bold, and the lines below. */
  heading: string;
  text: string;
  /** How a sheet of A4 is parted: so many labels beside and below each other, millimetres around all of them. */
  across: number;
  down: number;
  margin: number;
}

/** A document to be drawn up; its effect's id tells the files that come of it. */
export type DrawUpWork = { kind: "draw up"; called: string } & (FromTemplate | { labels: LabelsToLay });
interface FromTemplate {
  template: {
    sha256: string;
    name: string;
    /** The tags as they were in that release: what is filled in stands in their tree. */
    tags: TreeTag[];
  };
  as: DrawnAs;
  filled: Filled[];
}
interface LabelsToLay extends Pick<LabelsOf, "across" | "down" | "margin"> {
  labels: Label[];
}
export interface DrawUpResult {
  /** In the order in which formulas read them; none where a sample is being followed. */
  files: { id: string; name: string; size: number; sha256: string }[];
  /** Pages of the PDF. */
  pages?: number;
}
export type DrawUpReason = { code: "not-drawn-up"; data: { step: string; message: string } };
