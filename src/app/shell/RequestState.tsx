import { Mark } from "@/ui";

/** The state of a request as a word. */
export function RequestState({
  status,
  result,
  tone,
}: {
  status: string;
  result: string | null;
  tone: string | null;
}) {
  if (status === "finished")
    return <Mark tone={tone === "agree" || tone === "refuse" ? tone : "plain"}>{result ?? "finished"}</Mark>;
  if (status === "stuck") return <Mark tone="stuck">stuck</Mark>;
  if (status === "under way") return <Mark tone="info">under way</Mark>;
  return <Mark>{status}</Mark>;
}
