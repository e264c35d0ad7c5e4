/** Lines of the set-up commands: what is being done, and clear sentences when it cannot be. */
const began = Date.now();
export const say = (line) =>
  process.stdout.write(`  ${((Date.now() - began) / 1000).toFixed(1).padStart(6)} s  ${line}\n`);

/** Something the person at the keyboard can mend; shown without a stack trace. */
export class Trouble extends Error {
  constructor(what, wayOut) {
    super(what);
    this.wayOut = wayOut;
  }
}
export function report(e) {
  if (e instanceof Trouble) process.stderr.write(`\n  ${e.message}\n  ${e.wayOut}\n\n`);
  else {
    // What a program said before it ended is where the reason stands.
    const said = e?.out ? `\n\n${String(e.out).trim().split("\n").slice(-60).join("\n")}` : "";
    process.stderr.write(`\n  Something went wrong that nobody foresaw: ${e?.stack ?? e}${said}\n\n`);
  }
  process.exitCode = 1;
}
