import { startShelf } from "./shelf";

/** Started by the demo, which says by its environment where and as what. */
const said = (name: string): string => {
  const text = process.env[name];
  if (!text) throw new Error(`${name} is not set`);
  return text;
};

async function main() {
  const shelf = await startShelf({
    folder: said("SHELF_FOLDER"),
    port: Number(said("SHELF_PORT")),
    account: said("SHELF_ACCOUNT"),
    password: said("SHELF_PASSWORD"),
  });
  for (const signal of ["SIGINT", "SIGTERM"] as const)
    process.on(signal, () => void shelf.stop().then(() => process.exit(0)));
}
main().catch((e: Error) => {
  process.stderr.write(`${e.message}\n`);
  process.exit(1);
});
