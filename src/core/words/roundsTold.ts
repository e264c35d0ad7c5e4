import { roundText, roundWords, type RequestEvent, type RequestState } from "../engine";

type Told = Omit<RequestState["scopes"][string], "outcomes" | "kept">;

/** Rounds by the events that opened them, also those that have ended since: what they are called. */
export class RoundsTold {
  private readonly scopes: Record<string, Told> = {};
  /** By run, its step and the round in which it was opened. */
  private readonly runs: Record<string, { step: string; scope: string | null }> = {};

  /** Those in procedures, by the call. */
  private readonly inner: Record<string, RoundsTold> = {};

  note(e: RequestEvent): void {
    if (e.type === "in call") (this.inner[e.call] ??= new RoundsTold()).note(e.event);
    if (e.type === "run opened") this.runs[e.run.id] = e.run;
    if (e.type !== "round opened") return;
    const { token: id, run, index, of, one, name } = e;
    this.scopes[id] = { id, parent: this.runs[run]?.scope ?? null, run, index, of, one, name };
  }

  isRoundOf(token: string, step: string): boolean {
    const scope = this.scopes[token];
    return scope !== undefined && this.runs[scope.run]?.step === step;
  }

  /** "Object 3 of 7: Rope makers"; empty outside of all rounds. */
  words(scope: string | undefined): string {
    return scope === undefined ? "" : roundText(this.scopes, scope);
  }

  /** The round of a procedure, where the event happened in one; empty else. */
  inside(e: RequestEvent): string {
    if (e.type !== "in call") return "";
    const told = this.inner[e.call];
    return [told?.words(e.event.scope), told?.inside(e.event)].filter(Boolean).join(" · ");
  }

  /** The same without the rounds around it. */
  ownWords(scope: string): string {
    const told = this.scopes[scope];
    return told ? roundWords(told) : "";
  }
}
