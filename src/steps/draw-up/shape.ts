import type { Filled, TreeTag } from "@/core/document";
import type { StepBase } from "@/core/route/stepBase";

/** Draws up a document from a template; its file is read by the name of the step. */
export interface DrawUp extends StepBase {
  kind: "draw up";
  /** Id of a template of the process; empty until one is chosen. */
  document: string;
  /** A text with {formulas}: what the file is called, without its ending. */
  called: string;
  as: DrawnAs;
  /** Id of a field for files that keeps what was drawn up: in the place of the one that was there, or beside others. */
  into?: string;
}
/** Of both, the PDF is the first. */
export type DrawnAs = "docx" | "pdf" | "both";

/** A document to be drawn up; its effect's id tells the files that come of it. */
export interface DrawUpWork {
  kind: "draw up";
  template: {
    sha256: string;
    name: string;
    /** The tags as they were in that release: what is filled in stands in their tree. */
    tags: TreeTag[];
  };
  called: string;
  as: DrawnAs;
  filled: Filled[];
}
export interface DrawUpResult {
  /** In the order in which formulas read them; none where a sample is being followed. */
  files: { id: string; name: string; size: number; sha256: string }[];
  /** Pages of the PDF. */
  pages?: number;
}
export type DrawUpReason = { code: "not-drawn-up"; data: { step: string; message: string } };
