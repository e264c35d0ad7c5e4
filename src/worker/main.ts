import { closePool } from "@/db";
import { startWorker } from "./worker";

/** A job process: start as many as are needed against the same database. */
async function main() {
  const worker = await startWorker({ say: (line) => process.stdout.write(`${line}\n`) });
  for (const signal of ["SIGINT", "SIGTERM"] as const)
    process.once(signal, () => {
      void worker
        .stop()
        .then(closePool)
        .finally(() => process.exit(0));
    });
}
void main();
