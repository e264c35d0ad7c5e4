import { replayRequests, SYSTEM } from "@/services";
import { Trouble } from "./trouble";

/** Folds every request's events anew and holds the state that is kept against it. */
export async function replayCommand(say: (line: string) => void): Promise<void> {
  const { requests, events, differ } = await replayRequests(SYSTEM);
  say(`${requests} requests, ${events} events replayed`);
  if (differ.length > 0)
    throw new Trouble(
      `${differ.length} requests are kept otherwise than their events tell: ${differ.slice(0, 20).join(", ")}`,
    );
  say("Every one is kept as its events tell.");
}
