import { readFileSync } from "node:fs";
import { createServer } from "node:http";
import { closePool, getPool } from "@/db";

/**
 * A bare Node HTTP handler that runs the statements of one answer and thinks nothing: what HTTP and the database cost by
 * themselves. Arguments: a port, and a file with the statements.
 */
interface Bare {
  /** The first request; each call takes the next. */
  low: number;
  /** A first value that is null stands for the request. */
  statements: { text: string; values: unknown[] }[];
}
const { low, statements } = JSON.parse(readFileSync(process.argv[3]!, "utf8")) as Bare;
// What was bytes has come as a list of them.
const valueOf = (v: unknown): unknown => {
  const bytes = (v as { type?: string; data?: number[] } | null)?.type === "Buffer";
  return bytes ? Buffer.from((v as { data: number[] }).data) : v;
};
const asked = statements.map(({ text, values }, i) => {
  const all = values.map(valueOf);
  // State and events are put into words anew for each call, as whoever thinks has to.
  const parsed = all.map((v): unknown =>
    typeof v === "string" && /^[[{]/.test(v) ? (JSON.parse(v) as unknown) : v,
  );
  return { name: `bare-${i}`, text, values: parsed };
});
const sent = (v: unknown): unknown =>
  typeof v === "object" && v !== null && !Buffer.isBuffer(v) ? JSON.stringify(v) : v;
let next = low;

const server = createServer((request, response) => {
  void (async () => {
    const chunks: Buffer[] = [];
    for await (const c of request) chunks.push(c as Buffer);
    const body = JSON.parse(Buffer.concat(chunks).toString("utf8")) as unknown;
    const id = next++;
    for (const { name, text, values } of asked)
      await getPool().query({
        name,
        text,
        values: values.map((v, i) => (i === 0 && v === null ? id : sent(v))),
      });
    const answer = Buffer.from(JSON.stringify({ id, body }));
    response.writeHead(200, { "content-type": "application/json", "content-length": answer.length });
    response.end(answer);
  })();
});
server.listen(Number(process.argv[2]), "127.0.0.1");
process.once("SIGTERM", () => {
  server.closeAllConnections();
  server.close(() => void closePool().then(() => process.exit(0)));
});
