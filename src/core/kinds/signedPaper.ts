/** A document that somebody signed. */
export interface SignedPaper {
  /** Ids of the file whose pages were shown, and of the picture of the signature. */
  document: string;
  picture: string;
  /** Who signed; an account. */
  by: string;
  /** For whom they stood in; absent for nobody. */
  for?: string;
  /** Epoch milliseconds. */
  at: number;
}
