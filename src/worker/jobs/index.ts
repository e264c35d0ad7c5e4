import { askOthers } from "./askOthers";
import { callOff } from "./callOff";
import { effect } from "./effect";
import { forgetInChat } from "./forgetInChat";
import { goOn } from "./goOn";
import type { JobKind } from "./job";
import { look } from "./look";
import { lookDates } from "./lookDates";
import { lookEverywhere } from "./lookEverywhere";
import { mailStart } from "./mailStart";
import { recordStarts } from "./recordStarts";
import { registerReshape } from "./registerReshape";
import { requestEnded } from "./requestEnded";
import { showInChat } from "./showInChat";
import { sheetImport } from "./sheetImport";
import { sendAgain, sendMail } from "./sendMail";
import { sendNews } from "./sendNews";
import { startByTimetable } from "./startByTimetable";
import { sweepColumns } from "./sweepColumns";
import { sweepEnded } from "./sweepEnded";
import { sweepFiles } from "./sweepFiles";
import { sweepVisitors } from "./sweepVisitors";
import { timer } from "./timer";

/**
 * All tasks by the name under which the queue holds them. "tell" is how effects were queued before they had one task
 * in common; such jobs may still be waiting.
 */
export const JOBS: Readonly<Record<string, JobKind>> = {
  timer,
  effect,
  go_on: goOn,
  look,
  look_everywhere: lookEverywhere,
  look_dates: lookDates,
  timetables: startByTimetable,
  call_off: callOff,
  record_starts: recordStarts,
  request_ended: requestEnded,
  sheet_import: sheetImport,
  register_reshape: registerReshape,
  tell: effect,
  mail_start: mailStart,
  send_mail: sendMail,
  send_message: sendAgain,
  show_in_chat: showInChat,
  forget_in_chat: forgetInChat,
  send_news: sendNews,
  sweep_files: sweepFiles,
  sweep_visitors: sweepVisitors,
  sweep_ended: sweepEnded,
  sweep_columns: sweepColumns,
  ask_others: askOthers,
} as Record<string, JobKind>;

/** What runs by the clock: minute, hour, day of month, month, weekday. */
export const SCHEDULE = [
  { task: "sweep_files", match: "17 * * * *", identifier: "sweep_files" },
  { task: "sweep_visitors", match: "37 * * * *", identifier: "sweep_visitors" },
  { task: "sweep_ended", match: "41 3 * * *", identifier: "sweep_ended" },
  { task: "sweep_columns", match: "23 * * * *", identifier: "sweep_columns" },
  { task: "record_starts", match: "* * * * *", identifier: "record_starts" },
  { task: "look_dates", match: "* * * * *", identifier: "look_dates" },
  { task: "timetables", match: "* * * * *", identifier: "timetables" },
  { task: "ask_others", match: "*/10 * * * *", identifier: "ask_others" },
  { task: "look_everywhere", match: "5,15,25,35,45,55 * * * *", identifier: "look_everywhere" },
];
