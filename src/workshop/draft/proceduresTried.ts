import { compileRelease, type CompiledRelease, type Procedures } from "@/core/engine";
import type { Registers } from "@/core/form";
import { KINDS } from "@/kinds";
import type { DraftStart } from "./draft";

/** The procedures that are live, for a sample that goes through them; each is compiled when it is come to. */
export function proceduresTried(live: DraftStart["office"]["procedures"], registers: Registers): Procedures {
  const compiled = new Map<string, CompiledRelease>();
  const byId = (id: string): CompiledRelease | null => {
    const known = compiled.get(id);
    if (known) return known;
    const p = live.find((x) => x.id === id);
    if (!p?.definition) return null;
    const release = compileRelease(p.definition, registers, KINDS);
    compiled.set(id, release);
    return release;
  };
  return {
    // Of another version nothing is known here: what is live stands for it.
    find: (key) => {
      const p = live.find((x) => x.key === key);
      const release = p && byId(p.id);
      return p && release ? { id: p.id, release } : null;
    },
    byId,
  };
}
