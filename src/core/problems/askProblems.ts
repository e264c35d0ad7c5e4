import { isEmptyRule, ruleKind, stepKind, type Kinds, type OfficeFacts, type Say } from "../kinds";
import { findField, flatFields, isGroup, isKeptValue, isPicked } from "../form";
import {
  accessAt,
  ASK_MAIL_PLACES,
  asksBy,
  offerPlace,
  rungsOfStep,
  type AnswerChoice,
  type AskMail,
  type Assignment,
  type Offer,
  type ProcessDefinition,
  type Rule,
  type StepPlace,
} from "../route";
import { wordsOf } from "../mail";
import { partLimitProblems, spanProblems } from "./spanProblems";
import { answersWith, ladderProblems, limitProblems } from "./limitProblems";
import { place, type Problem } from "./problem";
import { rulesOnly } from "./rulesOnly";

/** What is wrong with whom steps ask, until when, and with every other rule that finds people. */
export function askProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  kinds: Kinds,
  office: OfficeFacts | undefined,
  out: Problem[],
) {
  const asking = (id: string) => {
    const asked = places.get(id)?.step;
    return asked && stepKind(kinds, asked).asks ? asked.name : null;
  };
  const ruleIn = (at: string, r: Rule, known: OfficeFacts, who: Assignment | undefined, say: Say) =>
    ruleKind(kinds, r).problems(r, {
      office: known,
      asking,
      // Only who must answer has to be somebody; being told nothing stops nobody.
      saved: at !== "who" || !who || who.fallback !== undefined,
      mailbox: d.mailbox !== undefined || d.procedure === true,
      say: (severity, code, message) => say(severity, code, message, at),
    });
  if (d.limit) {
    const say: Say = (severity, code, message, at, mend) =>
      out.push({ severity, code, where: place("process", "", at), message, ...(mend ? { mend } : {}) });
    spanProblems(d.limit, { d, kinds }, say);
    if (office) rulesOnly((at, r) => ruleIn(at, r, office, undefined, say), kinds).limit(d.limit);
  }
  for (const placed of places.values()) {
    const { step } = placed;
    const say: Say = (severity, code, message, at, mend) =>
      out.push({ severity, code, where: place("step", step.id, at), message, ...(mend ? { mend } : {}) });
    const kind = stepKind(kinds, step);
    partLimitProblems(placed, { d, kinds }, say);
    const who = kind.asks?.who(step);
    if (who) whoProblems(who, kind.asks?.answers(step) ?? [], kinds, say);
    const offers = kind.asks?.offers(step) ?? [];
    for (const o of offers) offerProblems(o, step.id, d, kinds, say);
    for (const field of new Set(twice(offers.map((o) => o.field))))
      say(
        "error",
        "offered-twice",
        "What can be chosen here is said twice. Take one of the two away.",
        offerPlace(field),
      );
    for (const a of kind.asks?.answers(step) ?? []) anewProblems(a, d, say);
    const mail = kind.asks?.byMail(step);
    if (kind.asks && mail) mailProblems(mail, kind.asks.answers(step), d, step, office, say);
    const limit = kind.asks?.limit(step);
    if (kind.asks && limit) limitProblems(limit, { d, kinds, answers: kind.asks.answers(step) }, say);
    for (const a of kind.asks?.answers(step) ?? [])
      if (a.byLadder && !rungsOfStep(step, d.ladders, kinds).some((r) => answersWith(kinds, r) === a.id))
        say(
          "warning",
          "never-given",
          `Only the ladder gives “${a.label}”, and no rung of it does. Have a rung answer with it, or take it away.`,
          "answers",
        );
    kind.formulas(
      step,
      rulesOnly((at, r) => optionalPerson(d, at, r, who, say), kinds),
    );
    if (!office) continue;
    kind.formulas(
      step,
      rulesOnly((at, r) => ruleIn(at, r, office, who, say), kinds),
    );
  }
  for (const l of d.ladders ?? []) {
    const say: Say = (severity, code, message, at, mend) =>
      out.push({ severity, code, where: place("ladder", l.id, at), message, ...(mend ? { mend } : {}) });
    ladderProblems(l, { d, kinds }, say);
    if (office) rulesOnly((at, r) => ruleIn(at, r, office, undefined, say), kinds).rungs(l.rungs);
  }
}

/** A person field that may be left out finds nobody then. */
function optionalPerson(d: ProcessDefinition, at: string, r: Rule, who: Assignment | undefined, say: Say) {
  if (r.by !== "formula" || (at === "who" && who?.fallback !== undefined)) return;
  const [first] = r.formula.split(".");
  const field = flatFields(d.fields).find((f) => f.name === first!.trim());
  if (!field || field.worked || (field.needed && field.needed !== "false")) return;
  say(
    "warning",
    "may-find-nobody",
    `"${field.name}" may be left out; nobody is found then. Make it needed, or name somebody else for that case.`,
    at,
  );
}

function whoProblems(who: Assignment, answers: readonly AnswerChoice[], kinds: Kinds, say: Say) {
  const wins = answers.find((a) => a.id === who.wins);
  if (who.wins !== undefined && (!wins || wins.returns || wins.abstains || wins.byLadder))
    say(
      "error",
      "no-winner",
      wins
        ? `“${wins.label}” cannot be the answer that must win: nobody decides anything by it. Choose another.`
        : "The answer that must win is not there any more. Choose another.",
      "who",
    );
  if (answers.length > 0 && answers.every((a) => a.byLadder))
    say(
      "error",
      "none-to-give",
      "Whoever is asked could say nothing: only the ladder gives these answers. Add one for people.",
      "answers",
    );
  if (answers.length > 0 && answers.every((a) => a.abstains || a.returns) && answers.some((a) => a.abstains))
    say(
      "error",
      "all-abstain",
      "Whoever is asked can only abstain or return it for changes: add an answer that decides.",
      "answers",
    );
  if (who.how === "share" && (who.share ?? 50) > 100)
    say("error", "bad-share", `${who.share}% of the people cannot agree.`, "who");
  if (who.rule.by === "formula" && isEmptyRule(kinds, who.rule))
    say("error", "no-who", "Say who is asked.", "who");
  if (who.rule.by === "formula" && who.rule.formula.trim() === "Requester" && !who.requesterToo)
    say(
      "error",
      "own-request",
      "The requester would answer their own request, which only happens where it is allowed.",
      "who",
    );
}

const twice = (ids: readonly string[]): string[] => ids.filter((id, i) => ids.indexOf(id) !== i);

/** Only what whoever is asked may pick can be limited. */
function offerProblems({ field: id, of }: Offer, step: string, d: ProcessDefinition, kinds: Kinds, say: Say) {
  const at = offerPlace(id);
  const found = findField(d.fields, id);
  if (!found)
    return say("error", "no-field", "What is offered here is of a field that is not there any more.", at);
  const { field, parents } = found;
  if (!isPicked(kinds.fields[field.kind]) || field.worked)
    return say(
      "error",
      "not-picked",
      `"${field.name}" is not picked from a list, so nothing can be offered in it.`,
      at,
    );
  if (!of.trim()) return say("error", "no-offer", `Say what can be chosen as "${field.name}".`, at);
  const access = accessAt(d, step);
  if (![field, ...parents.filter((p) => !isGroup(p))].every((f) => access(f.id) === "edit"))
    say(
      "warning",
      "offered-to-nobody",
      `"${field.name}" is not filled in at this step, so what is offered is of no use.`,
      at,
    );
}

/** What is wrong with how those asked are written to. */
/** What an answer reads anew that keeps no value of its own by now, or is not there any more. */
function anewProblems({ label, anew }: AnswerChoice, d: ProcessDefinition, say: Say) {
  for (const id of anew ?? []) {
    const field = findField(d.fields, id)?.field;
    if (field && isKeptValue(field)) continue;
    say(
      "error",
      "anew-lost",
      field
        ? `“${label}” reads "${field.name}" anew, which is no copy and not fixed: it moves by itself. Take it out there, or keep its value on the form sheet.`
        : `“${label}” reads something anew that is not in the form any more. Take it out.`,
      "answers",
    );
  }
}

function mailProblems(
  mail: AskMail,
  answers: readonly AnswerChoice[],
  d: ProcessDefinition,
  { id: stepId, name: step }: { id: string; name: string },
  office: OfficeFacts | undefined,
  say: Say,
) {
  const { mail: mailed, chat } = asksBy(mail);
  if (chat && office && office.chat === undefined)
    say(
      "error",
      "no-chat",
      `Those asked at “${step}” are asked in a chat room, and none is set up in Office.`,
      ASK_MAIL_PLACES.text,
    );
  if (mailed && !d.mailbox && !d.procedure)
    say(
      "error",
      "no-mailbox",
      `Those asked at “${step}” are written to, and the process has no mailbox to write from. Choose one under About.`,
      ASK_MAIL_PLACES.text,
    );
  for (const id of chat ? (mail.fills ?? []) : []) {
    const f = d.fields.find((x) => x.id === id);
    const access = accessAt(d, stepId);
    if (!f)
      say(
        "error",
        "no-field",
        "A field that is filled in in chat is not in the form any more.",
        ASK_MAIL_PLACES.text,
      );
    else if (access(f.id) !== "edit" || f.worked)
      say(
        "warning",
        "filled-by-nobody",
        `“${f.name}” is not filled in at “${step}”, so it is not asked for in chat either.`,
        ASK_MAIL_PLACES.text,
      );
  }
  if (mail.letter === undefined && !mail.subject.trim())
    say("error", "no-subject", `Say what the message of “${step}” is about.`, ASK_MAIL_PLACES.subject);
  if (!mail.reply || !mailed) return;
  const of = new Map<string, string>();
  for (const a of answers.filter((x) => !x.byLadder))
    for (const word of wordsOf(a)) {
      const other = of.get(word);
      if (other !== undefined && other !== a.id)
        say(
          "error",
          "words-twice",
          `“${word}” stands for two answers of “${step}”: a reply that says it could mean either.`,
          "answers",
        );
      of.set(word, a.id);
    }
}
