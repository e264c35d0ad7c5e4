export const NOT_OURS = "This change did not come from a page of Cobble Step.";

/**
 * Whether a change came from a page of ours: its Origin is the address this installation says is its own, else (in the
 * demo, which has none) the host it was sent to.
 */
export function fromOurPage(
  origin: string | null,
  host: string | null,
  publicUrl = process.env["PUBLIC_URL"] ?? "",
): boolean {
  if (!origin || !host) return false;
  try {
    // A proxy in front may have put another host in its place.
    if (publicUrl !== "") return new URL(origin).origin === new URL(publicUrl).origin;
    return new URL(origin).host === host;
  } catch {
    return false;
  }
}
