import { beginOffice, readSettings } from "@/services";
import { Trouble } from "./trouble";

const EXAMPLE =
  'npm run first-person -- --name "Una Quirke" --email una.quirke@quillhaven.example --zone Europe/Dublin';

/** Reads `--name VALUE` and the like. */
function optionsOf(args: readonly string[], names: readonly string[]): Record<string, string> {
  const out: Record<string, string> = {};
  for (let i = 0; i < args.length; i += 2) {
    const name = args[i]!.replace(/^--/, "");
    const value = args[i + 1];
    if (!args[i]!.startsWith("--") || !names.includes(name) || value === undefined)
      throw new Trouble(`"${args[i]}" is not understood here. Write for example:\n  ${EXAMPLE}`);
    out[name] = value;
  }
  return out;
}

/** Makes the first person with the rights of the office, and prints the link by which they set their password. */
export async function firstPersonCommand(
  args: readonly string[],
  env: NodeJS.ProcessEnv,
  say: (line: string) => void,
): Promise<void> {
  const read = readSettings(env);
  if (!read.ok) throw new Trouble(read.mistakes.join("\n"));
  const { name, email, zone } = optionsOf(args, ["name", "email", "zone"]);
  if (!name || !email) throw new Trouble(`Say who it is, for example:\n  ${EXAMPLE}`);
  const made = await beginOffice({
    name,
    email,
    zone: zone ?? new Intl.DateTimeFormat().resolvedOptions().timeZone,
  });
  if (!made.ok) throw new Trouble(made.sentence);
  const { publicUrl, port } = read.settings;
  say(`${name} has the rights of the office. This link sets their password; it works once, for three days:`);
  say(`\n  ${publicUrl || `http://localhost:${port}`}/set-password?token=${made.token}\n`);
}
