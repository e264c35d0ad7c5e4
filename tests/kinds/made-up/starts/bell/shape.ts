/** Made up for the tests: whoever rings the bell. */
export interface BellStart {
  id: string;
  kind: "bell";
  /** Formula for whether it rings. */
  rings: string;
}
