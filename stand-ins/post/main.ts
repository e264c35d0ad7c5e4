import { startPost } from "./post";

/** Started by the demo: POST_FOLDER, POST_SMTP, POST_IMAP and POST_PAGE say where. */
const port = (name: string): number => {
  const n = Number(process.env[name]);
  if (!Number.isInteger(n) || n < 1) throw new Error(`${name} is to be a port`);
  return n;
};
const folder = process.env["POST_FOLDER"];
if (!folder) throw new Error("POST_FOLDER is not set");
const addresses = (process.env["POST_ADDRESSES"] ?? "").split(",").filter((a) => a.includes("@"));

async function main() {
  const post = await startPost({
    folder: folder!,
    smtpPort: port("POST_SMTP"),
    imapPort: port("POST_IMAP"),
    pagePort: port("POST_PAGE"),
    addresses,
  });
  for (const signal of ["SIGINT", "SIGTERM"] as const)
    process.on(signal, () => void post.stop().then(() => process.exit(0)));
}
main().catch((e: Error) => {
  process.stderr.write(`${e.message}\n`);
  process.exit(1);
});
