import {
  deadJobs,
  formDrafts,
  getPool,
  officeLog,
  passwords,
  sessions,
  sheetImports,
  signInPace,
} from "@/db";
import { defineView } from "../kernel/defineUseCase";
import { settingsNow } from "../kernel/settings";

/** A draft of a form nobody went on with for so long goes; its files go a month after they were added. */
const DRAFT_DAYS = 180;
/** Jobs that gave up stay to be seen to so long. */
const DEAD_JOB_DAYS = 90;
/** Sheets that were brought in, and what was refused of them, stay to be looked at so long. */
const SHEET_DAYS = 14;

/** Removes what has ended: sessions, links, tries to sign in, drafts of forms, old entries of the log. */
export const sweepEnded = defineView(
  ["run jobs"],
  async (c): Promise<{ sessions: number; entries: number; drafts: number }> => {
    if (!c.may({ action: "run jobs" })) return { sessions: 0, entries: 0, drafts: 0 };
    const db = getPool();
    const { sessionIdleHours, logDays } = settingsNow();
    await signInPace.sweepPaces(db);
    await signInPace.sweepBrowsers(db);
    await passwords.sweepLinks(db);
    await deadJobs.sweepDeadJobs(db, DEAD_JOB_DAYS);
    await sheetImports.sweepImports(db, SHEET_DAYS);
    return {
      sessions: await sessions.sweepSessions(db, sessionIdleHours),
      drafts: await formDrafts.sweepDrafts(db, DRAFT_DAYS),
      entries: await officeLog.sweepLog(db, logDays),
    };
  },
);
