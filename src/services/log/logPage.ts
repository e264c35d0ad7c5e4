import Papa from "papaparse";
import { officeLog, searching, type LogRow } from "@/db";
import { defineUseCase, defineView } from "../kernel/defineUseCase";
import { loadDirectory, personName, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { logSentence } from "./logSentence";
import { LOG_KINDS, type LogEntry, type LogKind } from "./logEntry";
import { noteEntry } from "./noteEntry";

const PAGE = 50;
const MOST_EXPORTED = 100_000;

export interface LogLine {
  id: string;
  at: number;
  /** By name; "somebody" where nobody was signed in. */
  by: string;
  sentence: string;
  via: string | null;
  address: string;
  tone: "plain" | "refuse";
}
export interface LogPage {
  lines: LogLine[];
  /** To be given for what came before these; null at the end. */
  before: string | null;
  kinds: readonly LogKind[];
  /** To choose whose entries are shown. */
  people: { id: string; name: string }[];
}
export interface LogFilter {
  kind: string;
  person: string;
  before: string;
}

function whoOf(d: Directory, r: LogRow): string {
  if (r.by_person) return personName(d, r.by_person);
  return r.what === "sign-in refused" ? "somebody" : "Cobble Step";
}

const lineOf = (d: Directory, r: LogRow): LogLine => ({
  id: r.id,
  at: r.at,
  by: whoOf(d, r),
  sentence: logSentence({ what: r.what, data: r.data } as LogEntry, (id) => personName(d, id)),
  via: r.via,
  address: r.address,
  tone: r.what === "refused" || r.what === "sign-in refused" ? "refuse" : "plain",
});

const searchOf = (f: LogFilter, limit: number) => ({
  what: LOG_KINDS.some((k) => k === f.kind) ? [f.kind] : null,
  person: f.person || null,
  before: /^\d{1,18}$/.test(f.before) ? f.before : null,
  limit,
});

/** What matters for safety, newest first; for those with the rights of the office. */
export const logPage = defineView(["read log"], async (c, filter: LogFilter): Promise<LogPage | null> => {
  if (!c.may({ action: "read log" })) return null;
  return searching(async (db) => {
    const d = await loadDirectory(db);
    const rows = await officeLog.findLog(db, searchOf(filter, PAGE + 1));
    const more = rows.length > PAGE;
    return {
      lines: rows.slice(0, PAGE).map((r) => lineOf(d, r)),
      before: more ? rows[PAGE - 1]!.id : null,
      kinds: LOG_KINDS,
      people: [...d.people.values(), ...d.services.values()].map(({ id, name }) => ({ id, name })),
    };
  });
});

/** The log as CSV (RFC 4180), newest first. That it was exported stands in it, too. */
export const exportLog = defineUseCase(["read log"], async (c, filter: LogFilter): Promise<string> => {
  if (!c.may({ action: "read log" }))
    throw new Failed({ code: "not-allowed", data: { action: "export the log" } });
  const rows = await searching(async (db) => {
    const d = await loadDirectory(db);
    return (await officeLog.findLog(db, searchOf({ ...filter, before: "" }, MOST_EXPORTED))).map((r) => {
      const l = lineOf(d, r);
      return [
        new Date(l.at).toISOString(),
        r.what,
        l.by,
        r.by_person ?? "",
        l.via ?? "",
        l.address,
        l.sentence,
      ];
    });
  });
  await noteEntry(c.actor, { what: "exported", data: { of: "the log" } });
  return Papa.unparse(
    { fields: ["When", "What", "Who", "Who (id)", "Through", "Address", "In words"], data: rows },
    // What a spreadsheet would take for a formula is told to be a text.
    { escapeFormulae: true, newline: "\r\n" },
  );
});
