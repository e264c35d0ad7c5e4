import {
  compile,
  environment,
  evaluate,
  parseFormula,
  type FormulaProblem,
  type Names,
  type Program,
  type Value,
} from "../expression";
import {
  findField,
  keptAs,
  keptRows,
  MAIL_SCOPE,
  mailNames,
  type MailFacts,
  type Facts,
  type Field,
  type FieldKinds,
  type FormData,
  type Stored,
} from "../form";
import type { OfMail } from "../kinds";

/** A start by mail, ready to be asked. */
export interface MailStartProgram {
  when: Program | null;
  /** There is no condition. */
  always: boolean;
  values: readonly { field: string; program: Program | null }[];
}

export function mailStartProgram(of: OfMail): MailStartProgram {
  const program = (text: string): Program | null => {
    const { ast } = parseFormula(text, MAIL_SCOPE);
    return ast ? compile(ast) : null;
  };
  return {
    when: of.when === null ? null : program(of.when),
    always: of.when === null,
    values: of.values.map((v) => ({ field: v.field, program: program(v.value) })),
  };
}

function asked(program: Program | null, names: Names, facts: Facts): { value: Value } | { why: string } {
  if (!program) return { why: "A formula has a mistake." };
  const notes: FormulaProblem[] = [];
  const value = evaluate(program, { ...environment(names, facts), notes });
  const failed = notes.find((n) => n.code !== "was-empty");
  return failed ? { why: failed.message } : { value };
}

/** Whether a mail starts one. What cannot be told is said: it is no "no". */
export function takesMail(p: MailStartProgram, mail: MailFacts, facts: Facts): boolean | { why: string } {
  if (p.always) return true;
  const is = asked(p.when, mailNames(mail, facts), facts);
  return "why" in is ? is : is.value === true;
}

/** What the form begins with, of a mail; or why that cannot be told. */
export function filledByMail(
  p: MailStartProgram,
  mail: MailFacts,
  fields: readonly Field[],
  kinds: FieldKinds,
  facts: Facts,
): { data: FormData } | { why: string } {
  const names = mailNames(mail, facts);
  const out: Record<string, Stored> = {};
  for (const { field: id, program } of p.values) {
    const field = findField(fields, id)?.field;
    if (!field) return { why: "A field it fills in is not in the form any more." };
    const v = asked(program, names, facts);
    if ("why" in v) return { why: `“${field.name}”: ${v.why}` };
    const kept =
      field.kind === "lines" ? keptRows(field, v.value, kinds, facts) : keptAs(field, v.value, kinds, facts);
    if ("why" in kept) return kept;
    out[id] = kept.kept;
  }
  return { data: out };
}
