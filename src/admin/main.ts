import { closePool, pendingMigrations } from "@/db";
import { filesTrouble, isDemoDatabase, readSettings } from "@/services";
import { filesCommand } from "./filesCommand";
import { firstPersonCommand } from "./firstPersonCommand";
import { migrateCommand } from "./migrateCommand";
import { replayCommand } from "./replayCommand";
import { Trouble } from "./trouble";

/** What `npm start` needs to know of the database before it starts anything. */
async function readyCommand(): Promise<void> {
  const pending = await pendingMigrations();
  if (pending.length > 0)
    throw new Trouble(
      `The database is ${pending.length} migrations behind this program (${pending[0]} is next). Run: npm run migrate`,
    );
  if (await isDemoDatabase())
    throw new Trouble(
      "This database was filled by npm run demo: everybody knows its people and their password. Take a database of your own.",
    );
  // What is wrong with settings is said by whatever starts.
  const files = readSettings(process.env).ok ? await filesTrouble() : null;
  if (files !== null) throw new Trouble(files);
}

const say = (line: string) => void process.stdout.write(`${line}\n`);
const COMMANDS: Readonly<Record<string, (args: readonly string[]) => Promise<void>>> = {
  migrate: () => migrateCommand(process.env, say),
  "first-person": (args) => firstPersonCommand(args, process.env, say),
  replay: () => replayCommand(say),
  files: (args) => filesCommand(args, say),
  ready: readyCommand,
};

/** Commands for whoever runs an installation: `node dist/src/admin/main.cjs COMMAND`. */
async function main(): Promise<void> {
  const [name = "", ...args] = process.argv.slice(2);
  const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
  if (!command)
    throw new Trouble(`There is no command "${name}"; there are ${Object.keys(COMMANDS).join(", ")}.`);
  await command(args);
}

main()
  .catch((e: unknown) => {
    const error = e as Error & { code?: string };
    const unreachable = /^(ECONN|ENOTFOUND|EAI_AGAIN|ETIMEDOUT|28P01|3D000|28000)/.test(error.code ?? "");
    if (error instanceof Trouble || unreachable)
      process.stderr.write(
        unreachable
          ? `The database cannot be reached as DATABASE_URL${process.env["MIGRATE_URL"] ? " or MIGRATE_URL" : ""} says: ${error.message}\n`
          : `${error.message}\n`,
      );
    else process.stderr.write(`${error.stack ?? String(e)}\n`);
    process.exitCode = 1;
  })
  .finally(() => closePool());
