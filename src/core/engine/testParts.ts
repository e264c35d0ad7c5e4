import type { Command } from "./commands";
import { decide, type Decision } from "./decide";
import type { EngineFacts } from "./facts";
import { aboutOf, heldBy, joinParts, partsChanged, type Part } from "./parts";
import type { CompiledRelease } from "./release";
import type { RequestState } from "./state";
import { NeedsWhole } from "./needsWhole";

/** What stands in the database of a request that is kept in parts, read and written as the database is. */
export class PartsKept {
  private root: RequestState | null = null;
  private readonly parts = new Map<string, Part>();
  /** How often a command was decided with some rounds unread, and how often it turned out that all had to be read. */
  partly = 0;
  wholly = 0;

  private read(about: string | null): RequestState {
    const all = [...this.parts.values()];
    const live = all.filter((p) => !p.past);
    if (about === null) return joinParts(this.root!, all, true);
    const around = new Map<string, Part>();
    const found = live.find((p) => heldBy(p).includes(about));
    for (let p = found; p; p = p.parent === null ? undefined : this.parts.get(p.parent)) around.set(p.id, p);
    for (const p of live) if (p.beside && (p.parent === null || around.has(p.parent))) around.set(p.id, p);
    const some = joinParts(this.root!, [...around.values()], false);
    return heldBy(some).includes(about) ? some : this.read(null);
  }

  /** Decides on what is kept, as little of it as will do, and keeps what comes of it. */
  decide(release: CompiledRelease, command: Command, facts: EngineFacts): Decision {
    let before = this.read(aboutOf(command));
    let d: Decision;
    try {
      d = decide(release, before, command, facts);
      const rounds = [...this.parts.values()].filter((p) => !p.past && !p.beside).length;
      if (Object.keys(before.scopes).length < rounds) this.partly++;
    } catch (e) {
      if (!(e instanceof NeedsWhole)) throw e;
      this.wholly++;
      before = this.read(null);
      d = decide(release, before, command, facts);
    }
    if (d.ok) this.keep(before, d.state);
    return d;
  }

  keep(before: RequestState | null, after: RequestState) {
    const { root, written, gone } = partsChanged(before, after);
    // As text: what is kept shares nothing with what is at work.
    this.root = JSON.parse(JSON.stringify(root)) as RequestState;
    for (const id of gone) this.parts.delete(id);
    for (const p of written) this.parts.set(p.id, JSON.parse(JSON.stringify(p)) as Part);
  }

  all = (): RequestState => this.read(null);
}
