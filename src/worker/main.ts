import { readSettings } from "@/services";
import { keepWorking } from "./keepWorking";

/** A job process: start as many as are needed against the same database. */
async function main() {
  const read = readSettings(process.env);
  if (!read.ok) {
    process.stderr.write(`Cobble Step cannot work:\n${read.mistakes.map((m) => `- ${m}\n`).join("")}`);
    process.exit(2);
  }
  const stop = new AbortController();
  for (const signal of ["SIGINT", "SIGTERM"] as const) process.once(signal, () => stop.abort());
  await keepWorking(stop.signal, {
    say: (line) => process.stdout.write(`${line}\n`),
    jobsAtOnce: read.settings.jobsAtOnce,
  });
  process.exit(0);
}
void main();
