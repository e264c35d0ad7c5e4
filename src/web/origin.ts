export const NOT_OURS = "This change did not come from a page of Cobble Step.";

/** Whether a change came from a page of ours: its Origin is the host it was sent to. */
export function fromOurPage(origin: string | null, host: string | null): boolean {
  if (!origin || !host) return false;
  try {
    return new URL(origin).host === host;
  } catch {
    return false;
  }
}
