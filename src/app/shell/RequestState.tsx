import { Mark } from "@/ui";

/**
 * The state of a request as a word.
 * @param stage for whoever asked: the stage it stands in, in the words of its owner
 */
export function RequestState({
  status,
  result,
  tone,
  stage = null,
}: {
  status: string;
  result: string | null;
  tone: string | null;
  stage?: string | null;
}) {
  if (status === "finished")
    return <Mark tone={tone === "agree" || tone === "refuse" ? tone : "plain"}>{result ?? "finished"}</Mark>;
  if (status === "stuck") return <Mark tone="stuck">stuck</Mark>;
  if (status === "under way") return <Mark tone="info">{stage ?? "under way"}</Mark>;
  return <Mark>{status}</Mark>;
}
