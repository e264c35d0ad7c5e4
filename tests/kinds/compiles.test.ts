import { readdirSync, readFileSync, statSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import ts from "typescript";
import { LISTS, type ListLine } from "./madeUpLists";

/**
 * The made-up kinds of tests/kinds/made-up are put into a copy of the source that exists only in memory. With all
 * their parts it compiles; with any one part left out it must not.
 */
const root = process.cwd();
const madeUp = join(root, "tests/kinds/made-up");
const filesIn = (dir: string): string[] =>
  readdirSync(dir).flatMap((name) => {
    const path = join(dir, name);
    return statSync(path).isDirectory() ? filesIn(path) : [path];
  });
const rooms = filesIn(madeUp).map((path) => join(root, "src", relative(madeUp, path)));
const config = ts.parseJsonConfigFileContent(
  ts.readConfigFile(join(root, "tsconfig.json"), ts.sys.readFile).config,
  ts.sys,
  root,
);
const options: ts.CompilerOptions = {
  ...config.options,
  incremental: false,
  noEmit: true,
  plugins: undefined,
};

function listWith(lines: readonly ListLine[], list: string): string {
  let text = readFileSync(join(root, list), "utf8");
  for (const l of lines.filter((x) => x.list === list)) {
    if (!text.includes(l.behind)) throw new Error(`${list} has no "${l.behind}"`);
    text = `${l.imports}\n${text.replace(l.behind, `${l.behind}\n${l.line}`)}`;
  }
  return text;
}

const parsed = new Map<string, ts.SourceFile>();
let before: ts.Program | undefined;
/** What the compiler says about the lists and the made-up rooms. */
function mistakes(
  lines: readonly ListLine[],
  change: (path: string, text: string) => string = (_, t) => t,
): string[] {
  const lists = new Set(LISTS.map((l) => join(root, l.list)));
  const own = new Set(rooms);
  const host = ts.createCompilerHost(options);
  const read = host.readFile.bind(host);
  const text = (path: string): string | undefined => {
    if (lists.has(path)) return listWith(lines, relative(root, path));
    return own.has(path)
      ? change(relative(root, path), read(join(madeUp, relative(join(root, "src"), path)))!)
      : read(path);
  };
  host.fileExists = (
    (exists) => (path) =>
      own.has(path) || exists(path)
  )(host.fileExists.bind(host));
  const folders = new Set(rooms.map((path) => dirname(path)));
  host.directoryExists = (
    (exists) => (path) =>
      folders.has(path) || exists(path)
  )(ts.sys.directoryExists);
  host.readFile = text;
  host.getSourceFile = (path, target) => {
    const content = text(path);
    if (content === undefined) return undefined;
    const key = `${path}\n${lists.has(path) || own.has(path) ? content : ""}`;
    let file = parsed.get(key);
    if (!file) {
      file = ts.createSourceFile(path, content, target, true);
      (file as unknown as { version: string }).version = key;
      parsed.set(key, file);
    }
    return file;
  };
  const program = ts.createProgram(
    [...lists, ...rooms, join(root, "src/kinds/index.ts"), join(root, "src/kinds/views.ts")],
    options,
    host,
    before,
  );
  before = program;
  return [...lists, ...rooms].flatMap((path) => {
    const file = program.getSourceFile(path);
    return file
      ? program
          .getSemanticDiagnostics(file)
          .map(
            (d) =>
              `${relative(root, path)}: ${ts.flattenDiagnosticMessageText(d.messageText, " ").slice(0, 200)}`,
          )
      : [`${path} is not there`];
  });
}

it("with all their parts, made-up kinds of step, field and start compile", () => {
  expect(mistakes(LISTS)).toEqual([]);
}, 120_000);

it.each(LISTS.map((l) => [l.part, l] as const))(
  "without its %s it does not",
  (_, left) => {
    expect(mistakes(LISTS.filter((l) => l !== left))).not.toEqual([]);
  },
  120_000,
);

/** Every property of a behaviour, by the room's file and the text that makes it. */
const properties = (room: string, start: string): [string, string, RegExp][] => {
  const text = readFileSync(join(madeUp, room), "utf8");
  const body = text.slice(text.indexOf(start));
  return [...body.matchAll(/^ {2}(\w+)[:(]/gm)].map((m) => [
    room,
    m[1]!,
    new RegExp(`^ {2}${m[1]}(?=[:(])`, "m"),
  ]);
};
const ROOMS = [
  properties("steps/ripen/kind.ts", "export const"),
  properties("fields/angle/kind.ts", "export const"),
  properties("fields/angle/Input.tsx", "export const"),
  properties("starts/bell/kind.ts", "export const"),
  properties("steps/ripen/effect.ts", "export const"),
];
/** One property of each room at a time: each is missed in its own room, and a program is long to make. */
const rounds = Array.from({ length: Math.max(...ROOMS.map((r) => r.length)) }, (_, i) =>
  ROOMS.flatMap((r) => (r[i] ? [r[i]] : [])),
);
it.each(rounds.map((round) => [round.map(([room, name]) => `${room}: ${name}`).join(", "), round] as const))(
  "must be said: %s",
  (_, round) => {
    const without = mistakes(LISTS, (path, text) => {
      const here = round.find(([room]) => path === join("src", room));
      return here ? text.replace(here[2], `  not_${here[1]}`) : text;
    });
    for (const [room] of round) expect(without.join("\n")).toContain(join("src", room));
  },
  120_000,
);
