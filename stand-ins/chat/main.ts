import { startChat } from "./chat";

/** Started by the demo, which says by its environment where and as what. */
const said = (name: string): string => {
  const text = process.env[name];
  if (!text) throw new Error(`${name} is not set`);
  return text;
};
const list = (name: string): string[] => (process.env[name] ?? "").split(",").filter((a) => a !== "");

async function main() {
  const chat = await startChat({
    folder: said("CHAT_FOLDER"),
    port: Number(said("CHAT_PORT")),
    tells: said("CHAT_TELLS"),
    token: said("CHAT_TOKEN"),
    signingKey: said("CHAT_KEY"),
    accounts: list("CHAT_ACCOUNTS"),
    rooms: list("CHAT_ROOMS"),
  });
  for (const signal of ["SIGINT", "SIGTERM"] as const)
    process.on(signal, () => void chat.stop().then(() => process.exit(0)));
}
main().catch((e: Error) => {
  process.stderr.write(`${e.message}\n`);
  process.exit(1);
});
