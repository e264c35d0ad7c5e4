import { partyName } from "../form";
import type { AnewChange, EngineReason, Refusal, StuckReason } from "../engine";
import type { FormProblem } from "../form";
import type { Kinds } from "../kinds";
import type { EditRefusal } from "../route";

/**
 * Expected failures as sentences: what is wrong, where, the limit, an example. The only place that does
 * it, so that pages, the API and the trail say the same.
 */
export function formProblemSentence(p: FormProblem): string {
  const { field, value, limit, say, why, row } = p.data;
  const at = row ? `Line ${row}: ` : "";
  switch (p.code) {
    case "needed":
      return `${at}${field} is needed.`;
    case "no-lines":
      return `${field} needs at least one line.`;
    case "not-a-number":
      return `${at}"${value}" is not a number. Write digits, for example 1250.50.`;
    case "two-readings": {
      const [whole = "", part = ""] = (value ?? "").split(",");
      return `${at}"${value}" can be read in two ways. Write ${whole}${part} or ${whole}.${part}.`;
    }
    case "too-many-decimals":
      if (limit === "0") return `${at}${field} is a whole number, for example 12; "${value}" is none.`;
      return `${at}${field} has at most ${limit} digits after the point, for example 12.50; "${value}" has more.`;
    case "too-small":
      return `${at}${field} is at least ${limit}; ${value} is less.`;
    case "too-large":
      return `${at}${field} is at most ${limit}; ${value} is more.`;
    case "not-a-date":
      return `${at}"${value}" is not a date. Write year-month-day, for example 2026-11-30.`;
    case "not-a-time":
      return `${at}"${value}" is not a time of day. Write hours and minutes, for example 14:30.`;
    case "not-a-moment":
      return `${at}"${value}" is not a date and time. Write for example 2026-11-30T14:30.`;
    case "not-an-address":
      return `${at}"${value}" is not an e-mail address. Write one alone, for example una.quirke@quillhaven.example.`;
    case "not-a-telephone":
      return `${at}"${value}" is not a telephone number. Write figures, for example +353 21 555 0142.`;
    case "not-a-length":
      return `${at}"${value}" is not a length of time. Write it with its units, for example 1 h 30 min or 2 days.`;
    case "not-a-postal-address":
      return `${at}${field} lacks its ${limit}.`;
    case "not-a-web-address":
      return `${at}"${value}" is not a web address. Write it whole, for example https://quillhaven.example/visit.`;
    case "too-early":
      return `${at}${field} is ${limit} at the earliest; ${value} is before that.`;
    case "too-late":
      return `${at}${field} is ${limit} at the latest; ${value} is after that.`;
    case "too-long":
      return `${at}${field} may have ${limit} characters; this has ${value}.`;
    case "form-too-large":
      return `This form holds ${value} MB of text; up to ${limit} MB can be sent. ${field} holds most of them: shorten it, or add it as a file.`;
    case "not-an-option":
      return `${at}"${value}" is not one of the choices of ${field}: ${limit}.`;
    case "not-offered":
      return `${at}${field} is none of those that can be chosen here. Pick one from the list, or leave it empty.`;
    case "not-yes-or-no":
      return `${at}${field} is answered with yes or no.`;
    case "not-a-text":
      return `${at}${field} is a text; "${value}" is none.`;
    case "no-person":
      return `${at}${field}: there is nobody known as "${value}". Pick somebody from the list.`;
    case "no-request":
      return `${at}${field}: there is no request "${value}". Numbers look like LOAN-0042.`;
    case "no-record":
      return `${at}${field}: record "${value}" is not there any more. Pick another from the list.`;
    case "records-gone":
      return `${at}${field}: a record is not there any more. Take it out, or pick another.`;
    case "too-many-records":
      return `${at}${field} may hold ${limit} records; these are ${value}.`;
    case "too-many-chosen":
      return `${at}${field} may hold ${limit} choices; these are ${value}.`;
    case "too-few-records":
      return `${at}${field} needs at least ${limit} records; ${value === "1" ? "this is 1" : `these are ${value}`}.`;
    case "too-many-lines":
      return `${field} may have ${limit} lines; this has ${value}.`;
    case "too-few-lines":
      return `${field} needs at least ${limit} lines; this has ${value}.`;
    case "twice":
      return `${at}${field} “${value}” stands in line ${limit} already.`;
    case "not-signed":
      return `${at}${field}: sign here. The document above counts as signed only with a signature that is given for it.`;
    case "signed-elsewhere":
      return `${at}${field} has been used to sign with already. Sign anew.`;
    case "no-file":
      return `${at}${field}: this file is not there any more, or not yours. Add it again.`;
    case "file-too-large":
      return `${at}${field} takes files of up to ${limit} MB; this one has ${value} MB.`;
    case "files-too-large":
      return `${at}${field} takes files of up to ${limit} MB together; these have ${value} MB.`;
    case "too-many-files":
      return `${at}${field} takes up to ${limit} files; these are ${value}.`;
    case "wrong-file":
      return `${at}${field} takes these kinds of files: ${limit}; "${value}" is another.`;
    case "check":
      return `${at}${say ?? `${field} is not right.`}`;
    case "unclear":
      return why
        ? `${at}${field} cannot be checked yet. ${why}`
        : `${at}${field} cannot be checked: something it is worked out from has no value.`;
  }
}

/** The first few of them: a mail or a message is no place for hundreds. */
function anewInWords({
  changes,
  stays,
}: {
  changes: readonly AnewChange[];
  stays: readonly string[];
}): string {
  const first = changes.slice(0, 5).map((c) => `${c.name} ${c.from || "empty"} → ${c.to || "empty"}`);
  const more = changes.length > 5 ? ` and ${changes.length - 5} more` : "";
  const others = changes.length > 0 ? ` Others now: ${first.join(", ")}${more}.` : "";
  const some = stays.length > 5 ? ` and ${stays.length - 5} more` : "";
  const lost =
    stays.length > 0 ? ` Not to be read, and as before: ${stays.slice(0, 5).join(", ")}${some}.` : "";
  return others + lost;
}

/** @param name turns a person id into a name */
export function refusalSentence(r: Refusal, name: (id: string) => string): string {
  switch (r.code) {
    case "form":
      return r.data.problems.length === 1
        ? formProblemSentence(r.data.problems[0]!)
        : `${r.data.problems.length} answers need another look. The first: ${formProblemSentence(r.data.problems[0]!)}`;
    case "changed-since":
      return `${quotedList(r.data.fields)} ${r.data.fields.length === 1 ? "has" : "have"} changed since you looked. Your answer was not sent: look once more, then press again.`;
    case "read-anew":
      return `“${r.data.answer}” reads values anew.${anewInWords(r.data)} Nothing has been answered yet: look at them on the page of the task, then answer.`;
    case "records-unasked":
      return "What stands in the registers changed while this was looked at. Nothing was sent: press again.";
    case "unknown-task":
      return "This task is not there any more.";
    case "already-answered":
      return r.data.by && r.data.answer
        ? `${name(r.data.by)} has answered this already. Your answer was not needed, and nothing was changed by it.`
        : "This has been dealt with already; your answer was not needed.";
    case "taken-by-other":
      return `${name(r.data.by)} has taken this task. It can be answered when it is put back.`;
    case "not-yours":
      return "This task is not yours to answer.";
    case "unknown-answer":
      return `"${r.data.answer}" is not an answer of this step. The answers are: ${r.data.answers.join(", ")}.`;
    case "note-needed":
      return `"${r.data.answer}" needs a note that says why.`;
    case "not-shared":
      return "Only a task that several people could answer can be taken and put back.";
    case "same-person":
      return `${name(r.data.person)} cannot be handed this task: either they have it already or they do not work here any more.`;
    case "own-request":
      return `${name(r.data.person)} made this request and cannot decide it.`;
    case "kept-apart":
      return `${name(r.data.person)} is never asked at this step, so that it is decided by somebody else: they have answered another one, say.`;
    case "apart-unclear":
      return `Who is never asked at “${r.data.step}” cannot be worked out just now, so it can be answered by nobody and given to nobody. An owner of the process can mend what it reads.`;
    case "still-away":
      return `${name(r.data.person)} is entered as away just now, so it would go to their cover again at once. Take that time out first, under your own name at the top right.`;
    case "signs-for-good":
      return "Whoever has this task signs, and answers by that: it can only be handed over for good. Ask a colleague for advice instead.";
    case "cannot-ask":
      return `${name(r.data.person)} cannot be asked: that is you, somebody you cover for, or somebody who does not work here any more.`;
    case "asker-outside":
      return `${partyName(r.data.requester, name)}, who made the request, does not work here and has no desk. Write to them instead, or ask a colleague.`;
    case "only-answers":
      return "You are asked something here yourself, so nothing can be asked back. Say in your answer what you would need to know.";
    case "too-many-questions":
      return `${r.data.limit} questions are open at this task already. Wait for an answer to one of them, then ask again.`;
    case "ended":
      return `This request is ${r.data.status}; nothing more can be done with it.`;
    case "not-requester":
      return `Only ${partyName(r.data.requester, name)}, who made the request, can withdraw it.`;
    case "already-started":
      return `This request was sent already, as ${r.data.number}.`;
    case "not-stuck":
      return "This request is not stuck there any more.";
    case "asks-nobody":
      return `"${r.data.step}" asks nobody, so nobody can be named for it. Mend what it needs and retry, or let it go on without.`;
    case "choose-way":
      return `"${r.data.step}" decides something. Choose how the request goes on: ${r.data.ways.map((w) => `“${w}”`).join(", ")}.`;
    case "bad-limit":
      return "A new limit lies after now and within ten years, for example tomorrow at 17:00.";
  }
}

const quotedList = (names: readonly string[]): string => {
  const said = names.slice(0, 4).map((n) => `“${n}”`);
  const more = names.length > 4 ? ` and ${names.length - 4} more` : "";
  return more || said.length < 2
    ? `${said.join(", ")}${more}`
    : `${said.slice(0, -1).join(", ")} and ${said.at(-1)}`;
};

/** Why a request is stuck; what only a kind of step knows, that kind says. */
export function stuckSentence(r: StuckReason, kinds: Kinds): string {
  for (const k of Object.values(kinds.steps))
    if (k.reasons && Object.hasOwn(k.reasons, r.code)) return k.reasons[r.code]!(r.data as never);
  return engineSentence(r as EngineReason);
}
function engineSentence(r: EngineReason): string {
  switch (r.code) {
    case "nobody":
      return `"${r.data.step}" finds nobody to ask (${r.data.rule}). Ask somebody by name, or mend the rule and retry.`;
    case "too-many-asked":
      return `"${r.data.step}" would ask ${r.data.found} people at once (${r.data.rule}), and can ask ${r.data.most}. Mend the rule so that it finds fewer and retry, or ask somebody by name.`;
    case "runaway":
      return `The route ran in a circle at "${r.data.step}" and was stopped after ${r.data.limit} moves.`;
    case "unclear":
      return `"${r.data.step}" waits: “${r.data.formula}” cannot be worked out.${r.data.why ? ` ${r.data.why}` : ""} Mend what it reads and retry.`;
    case "too-many-offered":
      return `"${r.data.step}" would offer more than ${r.data.limit} things to choose from as “${r.data.field}”. Have it offer fewer, and retry.`;
    case "bad-jump":
      return `"${r.data.step}" leads to a step that cannot be reached from there.`;
    case "no-procedure":
      return `"${r.data.step}" hands to “${r.data.procedure}”, of which nothing is live. Release it and retry, or let it go on without.`;
    case "other-procedure":
      return `"${r.data.step}" cannot use “${r.data.procedure}” as it is now: it takes no “${r.data.name}” any more. Put a release live that does, and retry.`;
    case "nothing-back":
      return `"${r.data.step}": “${r.data.procedure}” has ended, on a release that hands no “${r.data.name}” back. Let it go on without; what reads it finds nothing.`;
    case "bad-inputs":
      return `"${r.data.step}" cannot begin “${r.data.procedure}”: what is handed over for ${r.data.fields} does not suffice. Mend what it reads and retry.`;
    case "too-deep":
      return `"${r.data.step}" would be more than ${r.data.limit} procedures deep, each handing to the next.`;
    case "no-letter":
      return `It is to send a letter “${r.data.letter}” that is not there.`;
    case "letter-too-long":
      return `The letter “${r.data.letter}” would have more than ${r.data.parts} paragraphs and rows, or ${r.data.characters} characters. Write it for fewer things and retry.`;
    case "no-document":
      return `It is to draw up a document from a template “${r.data.document}” that is not there.`;
    case "document-too-long":
      return `A document from “${r.data.document}” would have more than ${r.data.rows} repeated parts, or ${r.data.characters} characters. Draw it up for fewer things and retry.`;
    case "nothing-to-sign":
      return `"${r.data.step}" has nothing to be signed: “${r.data.document}” has not been drawn up by then, or not as a PDF. Have it drawn up before, and retry.`;
  }
}

export function editRefusalSentence(r: EditRefusal): string {
  switch (r.code) {
    case "unknown-field":
      return `That field is not in the draft any more.`;
    case "unknown-step":
      return `That step is not in the draft any more.`;
    case "unknown-list":
      return `That place in the route is not there any more.`;
    case "unknown-sample":
      return `That sample is not there any more.`;
    case "unknown-document":
      return `That template is not in the draft any more.`;
    case "unknown-ladder":
      return `That ladder is not there any more.`;
    case "unknown-letter":
      return `That letter is not in the draft any more.`;
    case "unknown-start":
      return `That start is not there any more.`;
    case "unknown-rung":
      return `That rung of the ladder is not there any more.`;
    case "unknown-neighbour":
      return `The row it should stand behind ("${r.data.id}") is not there any more.`;
    case "fixed-property":
      return `"${r.data.property}" of "${r.data.id}" cannot be changed this way.`;
    case "no-lists":
      return `The step "${r.data.id}" holds no lists of steps.`;
    case "holds-none":
      return `Nothing can stand inside "${r.data.name}": only pages, sections and line items hold others.`;
    case "duplicate-id":
      return `There is already something with the id "${r.data.id}".`;
    case "least-lists":
      return `This step needs its ${r.data.one}; take the whole step away instead.`;
    case "into-itself":
      return `A row cannot be moved into itself.`;
    case "other-key":
      return `This is the definition of another process, "${r.data.key}".`;
    case "other-sort":
      return r.data.procedure
        ? "A procedure cannot become a process: what hands to it would find none. Make a new process."
        : "A process cannot become a procedure: those who ask for it would find none. Make a new procedure.";
    case "bad-name":
      return r.data.why;
    case "name-taken":
      return `There is already a field called "${r.data.name}". Formulas could not tell the two apart.`;
    case "other-meaning":
      return `"${r.data.name}" cannot be ${r.data.deed} while ${r.data.says} reads "${shortened(r.data.formula)}": "${r.data.reads}" would then mean something else there. Change that formula first${r.data.deed === "taken away" ? "" : ", or take another name"}.`;
    case "rename-unclear":
      return `"${r.data.name}" cannot be renamed while ${r.data.says} reads "${shortened(r.data.formula)}": ${r.data.why}. Change that formula first.`;
  }
}

const shortened = (formula: string): string => (formula.length > 80 ? `${formula.slice(0, 79)}…` : formula);
