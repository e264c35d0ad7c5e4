import { startKind, type OfficeFacts } from "../kinds";
import type { ProcessDefinition, Surrounding } from "../route";
import { place, type Problem } from "./problem";

/** What is wrong with what the process is called, who owns it, what starts it. */
export function processProblems(
  d: ProcessDefinition,
  { kinds, registers }: Surrounding,
  office: OfficeFacts | undefined,
  out: Problem[],
) {
  const say = (code: string, at: string, message: string) =>
    out.push({ severity: "error", code, where: place("process", d.key, at), message });
  if (!d.name.trim()) say("no-name", "name", "The process needs a name, for example: Store key.");
  if (!d.procedure && !/^[A-Z][A-Z0-9]{1,7}$/.test(d.numbering.prefix))
    say(
      "bad-prefix",
      "numbering",
      `Request numbers start with 2 to 8 capital letters or digits, for example LOAN; "${d.numbering.prefix}" does not.`,
    );
  if (d.owners.length === 0)
    say("no-owner", "owners", "Name at least one owner: somebody must be able to mend it.");
  else if (office) {
    const here = d.owners.filter((o) => office.people.some((p) => p.id === o));
    if (here.length === 0)
      say("no-owner", "owners", "None of its owners is here any more: name somebody who can mend it.");
  }
  if (d.starts.length === 0 && !d.procedure)
    say("no-start", "starts", "Nothing starts this process. Add a form start.");
  if (d.route.length === 0)
    say("no-route", "route", "The route is empty: a request would end at once. Add a first step.");
  if (d.calendar && office && !office.calendars.includes(d.calendar))
    say("no-calendar", "calendar", `There is no working calendar "${d.calendar}".`);
  if (d.mailbox && office && !office.mailboxes.includes(d.mailbox))
    say("no-mailbox", "mailbox", `There is no mailbox “${d.mailbox}” in Office any more: choose another.`);
  for (const s of d.starts)
    startKind(kinds, s).problems(s, {
      groups: office?.groups ?? null,
      opened: office?.opened ?? null,
      registers,
      definition: d,
      kinds: kinds.fields,
      say: (severity, code, message, at, mend) =>
        out.push({ severity, code, where: place("start", s.id, at), message, ...(mend ? { mend } : {}) }),
    });
}

/** Two processes whose requests are numbered alike could not be told apart by anybody. */
export function prefixProblems(
  d: ProcessDefinition,
  taken: Readonly<Record<string, string>> | undefined,
  out: Problem[],
) {
  const { prefix } = d.numbering;
  const other = taken && Object.hasOwn(taken, prefix) ? taken[prefix] : undefined;
  if (other === undefined) return;
  out.push({
    severity: "error",
    code: "prefix-taken",
    where: place("process", d.key, "numbering"),
    message: `Requests of “${other}” are numbered ${prefix}-… already. Take other letters, for example ${prefix.slice(0, 7)}2.`,
  });
}
