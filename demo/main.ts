import { closePool, getPool } from "@/db";
import { putDemoChatRoom } from "./chatRoom";
import { putDemoMailboxes } from "./mailboxes";
import { putDemoOutlets } from "./outlets";
import { POST_PORTS, seed } from "./seed";

async function main() {
  // What it makes is the demo's, whoever starts it.
  process.env["COBBLE_DEMO"] ??= "1";
  const report = await seed({
    ...(process.env["COBBLE_ON"]
      ? { now: Date.parse(process.env["COBBLE_ON"]), clock: true }
      : { now: Date.now() }),
    ...(process.env["COBBLE_SPARE"] ? { spare: process.env["COBBLE_SPARE"].split(",") } : {}),
    requests: Number(process.env["COBBLE_REQUESTS"] ?? 1500),
    ...(process.env["COBBLE_OBJECTS"] ? { objects: Number(process.env["COBBLE_OBJECTS"]) } : {}),
    say: (line) => process.stdout.write(`${line}\n`),
  });
  if (report)
    process.stdout.write(
      `${report.started} requests made, ${report.finished} finished, ${report.open} under way (${(report.ms / 1000).toFixed(0)} s)\n`,
    );
  await putDemoMailboxes(getPool(), POST_PORTS);
  await putDemoChatRoom(getPool(), Date.now());
  await putDemoOutlets(getPool());
  await closePool();
}
main().catch((e: unknown) => {
  process.stderr.write(`${e instanceof Error ? e.message : String(e)}\n`);
  process.exit(1);
});
