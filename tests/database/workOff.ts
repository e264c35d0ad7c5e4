import { JOBS } from "@/worker/jobs";
import { sql } from "./world";

/**
 * Does all jobs that wait, and those that come of them, here and one after another. Those that are due later wait on.
 * @param pick which of so many is done next; the oldest unless said
 * @returns the tasks that were done, in order
 */
export async function workOff(pick: (n: number) => number = () => 0): Promise<string[]> {
  const did: string[] = [];
  for (;;) {
    const jobs = await sql<{ id: string; task: string; payload: unknown }>(`
      select j.id, t.identifier as task, j.payload
      from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id
      where j.run_at <= now()
      order by j.id
    `);
    const job = jobs[pick(jobs.length)];
    if (!job) return did;
    const kind = JOBS[job.task]!;
    await kind.run(kind.payload.parse(job.payload));
    await sql("select graphile_worker.complete_jobs($1::bigint[])", [[job.id]]);
    did.push(job.task);
    if (did.length > 5000) throw new Error(`jobs without end: ${did.slice(-5).join(", ")}`);
  }
}

/** Does the jobs of one kind alone that wait, once each. */
export async function workOffOf(task: string): Promise<void> {
  const jobs = await sql<{ id: string; payload: unknown }>(
    `select j.id, j.payload
     from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id
     where t.identifier = $1
     order by j.id`,
    [task],
  );
  const kind = JOBS[task]!;
  for (const job of jobs) {
    await kind.run(kind.payload.parse(job.payload));
    await sql("select graphile_worker.complete_jobs($1::bigint[])", [[job.id]]);
  }
}
