import { getPool, sessions } from "@/db";
import { defineUseCase, defineView } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { settingsNow } from "../kernel/settings";
import { noteEntry } from "../log/noteEntry";

export interface OwnSession extends sessions.SessionRow {
  /** The one this is asked from. */
  here: boolean;
}

/** Where one is signed in. */
export const ownSessions = defineView(["use own"], async (c): Promise<OwnSession[]> => {
  if (!c.may({ action: "use own", person: c.actor.id })) return [];
  const { via } = c.actor;
  const rows = await sessions.sessionsOf(getPool(), c.actor.id, settingsNow().sessionIdleHours);
  return rows.map((s) => ({ ...s, here: via.kind === "session" && via.id === s.id }));
});

/**
 * Ends one of one's own sessions.
 * @param id null for all but the one this is asked from
 */
export const endOwnSession = defineUseCase(
  ["use own"],
  async (c, id: string | null): Promise<{ ended: number }> => {
    c.must(
      { action: "use own", person: c.actor.id },
      { code: "not-allowed", data: { action: "end a session" } },
    );
    const db = getPool();
    const { id: person, via } = c.actor;
    const here = via.kind === "session" ? via.id : null;
    const ended =
      id === null
        ? await sessions.endSessions(db, person, here)
        : Number(await sessions.endSession(db, person, id));
    if (id !== null && ended === 0) throw new Failed({ code: "not-found", data: { what: "session", id } });
    await noteEntry(c.actor, { what: "session ended", data: { person, session: id ?? "all others" } });
    return { ended };
  },
);
