import { startPrintRoom } from "./printRoom";

/** Started by the demo, which says by its environment where and as what. */
const said = (name: string): string => {
  const text = process.env[name];
  if (!text) throw new Error(`${name} is not set`);
  return text;
};

async function main() {
  const room = await startPrintRoom({
    folder: said("PRINT_FOLDER"),
    port: Number(said("PRINT_PORT")),
    token: said("PRINT_TOKEN"),
  });
  for (const signal of ["SIGINT", "SIGTERM"] as const)
    process.on(signal, () => void room.stop().then(() => process.exit(0)));
}
main().catch((e: Error) => {
  process.stderr.write(`${e.message}\n`);
  process.exit(1);
});
