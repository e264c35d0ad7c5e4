import type { LogEntry } from "./logEntry";

const several = (n: number, one: string, more: string): string => (n === 1 ? `one ${one}` : `${n} ${more}`);

/** An entry of the log in words, as they follow on the name of whoever did it. */
export function logSentence(e: LogEntry, name: (person: string) => string): string {
  const list = (people: readonly string[]) => people.map(name).join(", ") || "nobody";
  switch (e.what) {
    case "signed in":
      return `signed in (${e.data.how})`;
    case "sign-in refused":
      return `was refused signing in as “${e.data.account}” (${e.data.why})`;
    case "signed out":
      return "signed out";
    case "shown anew":
      return "showed once more who they are";
    case "session ended":
      return e.data.session === "all others"
        ? `ended all other sessions of ${name(e.data.person)}`
        : `ended session ${e.data.session} of ${name(e.data.person)}`;
    case "password link made":
      return `made a link by which ${name(e.data.person)} sets a password`;
    case "password set":
      return e.data.how === "link" ? "set a password by a link" : "changed their password";
    case "key made":
      return `made key ${e.data.key}, “${e.data.label}”, acting as ${name(e.data.person)}`;
    case "key taken back":
      return `took back key ${e.data.key}, “${e.data.label}”, of ${name(e.data.person)}`;
    case "service added":
      return `added the service ${name(e.data.person)}`;
    case "service closed":
      return `closed the service ${name(e.data.person)}`;
    case "service opened":
      return `opened the service ${name(e.data.person)}`;
    case "person added":
      return `added ${name(e.data.person)}`;
    case "person changed":
      return `changed ${e.data.what.join(", ")} of ${name(e.data.person)}`;
    case "person closed":
      return `closed the account of ${name(e.data.person)}; ${several(e.data.moved, "open task was", "open tasks were")} moved`;
    case "person opened":
      return `opened the account of ${name(e.data.person)} again`;
    case "rights given":
      return `gave ${name(e.data.person)} the rights of the office`;
    case "rights taken":
      return `took the rights of the office from ${name(e.data.person)}`;
    case "people brought in":
      return `brought in people from a sheet: ${e.data.added} added, ${e.data.changed} changed`;
    case "group changed":
      return `changed the group “${e.data.group}”`;
    case "place renamed":
      return `renamed the ${e.data.kind} “${e.data.from}” to “${e.data.to}”, with ${several(e.data.people, "person", "people")}`;
    case "calendar changed":
      return `changed the working calendar “${e.data.calendar}”`;
    case "template brought in":
      return `brought in “${e.data.template}” as a template of ${e.data.process}`;
    case "letter kept":
      return `kept the letter “${e.data.letter}” of ${e.data.process} for all processes`;
    case "letter taken away":
      return `took the letter “${e.data.letter}” away that all processes could take`;
    case "ladder kept":
      return `kept the ladder “${e.data.ladder}” of ${e.data.process} for all processes`;
    case "ladder taken away":
      return `took the ladder “${e.data.ladder}” away that all processes could take`;
    case "template kept":
      return `kept the template “${e.data.template}” of ${e.data.process} for all processes`;
    case "template taken away":
      return `took the template “${e.data.template}” away that all processes could take`;
    case "mailbox changed":
      return `changed the mailbox ${e.data.mailbox}`;
    case "outlet changed":
      return `changed the ${e.data.outlet}`;
    case "chat room changed":
      return `changed the chat room ${e.data.name}`;
    case "duties changed":
      return `changed the duties of ${name(e.data.person)}`;
    case "register changed":
      return `changed the columns or rules of the register ${e.data.register}`;
    case "register made":
      return `made the register ${e.data.register}`;
    case "register rights changed":
      return `changed who may see the register ${e.data.register}`;
    case "absence set":
      return `entered that ${name(e.data.person)} is away${e.data.cover ? `, covered by ${name(e.data.cover)}` : ""}`;
    case "absence removed":
      return `removed an absence of ${name(e.data.person)}`;
    case "owners proposed":
      return `proposed ${list(e.data.owners)} as owners of ${e.data.process}`;
    case "owners changed":
      return `changed the owners of ${e.data.process} from ${list(e.data.before)} to ${list(e.data.after)}, as ${name(e.data.proposedBy)} proposed`;
    case "owner named":
      return `named ${name(e.data.person)} as owner of ${e.data.process}, which had none left`;
    case "released":
      return `released ${e.data.process} as ${e.data.version}`;
    case "process closed":
      return `closed ${e.data.process}`;
    case "process opened":
      return `opened ${e.data.process} again with ${e.data.version}`;
    case "process deleted":
      return `deleted ${e.data.process} (“${e.data.name}”), which was never used`;
    case "exported":
      return `exported ${e.data.of}`;
    case "job tried again":
      return `had job ${e.data.job} tried again, which had given up`;
    case "job dropped":
      return `dropped job ${e.data.job}, which had given up`;
    case "personal values blanked":
      return `blanked personal values in ${several(e.data.requests, "request", "requests")}${e.data.person ? ` of ${name(e.data.person)}` : ""}${e.data.process ? ` of ${e.data.process}` : ""}`;
    case "refused":
      return `was refused: ${e.data.deed}${e.data.on ? ` (${e.data.on})` : ""}`;
  }
}
