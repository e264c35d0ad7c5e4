import { inTransaction, officeEdits } from "@/db";
import { defineUseCase } from "../kernel/defineUseCase";
import { personName } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { noteEntry } from "../log/noteEntry";
import { keeping } from "./keepPeople";
import { registersNaming } from "../registers/rights";
import { keyFor } from "./keyFor";

const MOST_MEMBERS = 5000;
const wrong = (path: string, message: string) => new Failed({ code: "invalid", data: { path, message } });

/**
 * Makes a group or changes what it is called and who is in it.
 * @param key null for a new one; the key of a group stays, because processes name it
 */
export const putGroup = defineUseCase(
  ["keep people"],
  (c, key: string | null, name: string, members: readonly string[]): Promise<{ key: string }> =>
    inTransaction(async (db) => {
      const d = await keeping(c, db, "change groups");
      const called = name.normalize("NFC").trim().replace(/\s+/g, " ");
      if (called === "" || called.length > 80)
        throw wrong("Name", "A group has a name of 1 to 80 characters, for example: Key committee.");
      const twin = [...d.groups.values()].find(
        (g) => g.name.toLowerCase() === called.toLowerCase() && g.key !== key,
      );
      if (twin) throw wrong("Name", `There is a group called "${twin.name}" already.`);
      if (key !== null && !d.groups.has(key))
        throw new Failed({ code: "not-found", data: { what: "group", id: key } });
      const unique = [...new Set(members)];
      const before = new Set(key === null ? [] : d.groups.get(key)!.members);
      const gone = unique.find((m) => !d.people.get(m)?.active && !before.has(m));
      if (gone !== undefined) throw wrong("Members", `${personName(d, gone)} is not here.`);
      if (unique.length > MOST_MEMBERS)
        throw wrong("Members", `A group has at most ${MOST_MEMBERS} members.`);
      const own = key ?? keyFor(called, (k) => d.groups.has(k), "group");
      await officeEdits.putGroup(db, own, called, unique);
      await noteEntry(c.actor, { what: "group changed", data: { group: called } }, db);
      return { key: own };
    }),
);

/** Removes a group no process asks. */
export const removeGroup = defineUseCase(["keep people"], (c, key: string): Promise<null> =>
  inTransaction(async (db) => {
    const d = await keeping(c, db, "remove groups");
    const group = d.groups.get(key);
    if (!group) throw new Failed({ code: "not-found", data: { what: "group", id: key } });
    const named = await officeEdits.processesNaming(db, key);
    if (named.length > 0)
      throw wrong("", `“${group.name}” is named in ${named.join(", ")}; take it out there first.`);
    const seen = registersNaming(d, (a) => a.by === "group" && a.group === key).map((r) => r.name);
    if (seen.length > 0)
      throw wrong("", `“${group.name}” may see ${seen.join(", ")}; say there first who else may.`);
    await officeEdits.deleteGroup(db, key);
    await noteEntry(c.actor, { what: "group changed", data: { group: group.name } }, db);
    return null;
  }),
);
