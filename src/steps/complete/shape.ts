import type { Asks, Signing } from "@/core/route/asking";
import type { SignedPaper } from "@/core/kinds/signedPaper";
import type { StepBase } from "@/core/route/stepBase";

/** A person fills in or confirms. */
export interface Complete extends StepBase, Asks {
  kind: "complete";
  /** The words on the button. */
  button: string;
  /** Ids of copied and fixed fields and columns that are read anew as it is pressed. */
  anew?: string[];
  /**
   * The route goes on meanwhile, and the task is done beside it: what becomes of it where the request ends first. Absent
   * where the route waits for it.
   */
  beside?: "called off" | "stays";
  /** The document they sign by it; the signed one is read as `document` of what it came to. */
  signs?: Signing;
}

/** A document to be signed, by a signature that was given for its pages. */
export interface SignWork {
  kind: "complete";
  signs: SignedPaper;
  /** Of the signature: in its place of the document it is put. */
  field: string;
}
export interface SignResult {
  /** The signed one; none where a sample is being followed. */
  files: { id: string; name: string; size: number; sha256: string }[];
  pages?: number;
}
export type SignReason = { code: "not-made-signed"; data: { step: string; message: string } };
