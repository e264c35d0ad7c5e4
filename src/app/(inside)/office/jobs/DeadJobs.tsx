"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useTransition } from "react";
import { Button, Table, whenText } from "@/ui";
import { settleJobAction } from "../../../actions/office";
import { say } from "../../../shell/say";

/** What each kind of job does, in words. */
const TASKS: Readonly<Record<string, string>> = {
  timer: "act when a time limit is reached",
  effect: "carry out a step",
  tell: "tell somebody",
  mail_start: "start what a mail asks for",
  send_mail: "send a mail",
  send_message: "send a mail again",
  sweep_files: "remove files never sent",
  sweep_ended: "remove what has ended",
  ask_others: "ask others where somebody is away",
};

interface Job {
  id: string;
  task: string;
  number: string | null;
  attempts: number;
  error: string;
  since: number;
}

export function DeadJobs({ jobs, zone }: { jobs: Job[]; zone: string }) {
  const router = useRouter();
  const [busy, start] = useTransition();
  const settle = (id: string, how: "try again" | "drop", said: string) =>
    start(async () => {
      const r = await settleJobAction(id, how);
      if (r.ok) say(said);
      else say(r.sentence, "bad");
      router.refresh();
    });
  return (
    <Table
      head={[
        "Was to",
        "For",
        "Tried",
        "Last since",
        "What went wrong",
        { id: "do", name: "Do", hidden: true },
      ]}
    >
      {jobs.map((j) => (
        <tr key={j.id}>
          <td>{TASKS[j.task] ?? j.task}</td>
          <td className="whitespace-nowrap">
            {j.number && (
              <Link className="link" href={`/requests/${j.number}`} prefetch={false}>
                {j.number}
              </Link>
            )}
          </td>
          <td>{j.attempts} times</td>
          <td className="whitespace-nowrap">{whenText(j.since, zone)}</td>
          <td className="max-w-md break-words text-brick">{j.error.slice(0, 300)}</td>
          <td className="whitespace-nowrap">
            <Button
              small
              disabled={busy}
              aria-label={`Try job ${j.id} again`}
              onClick={() => settle(j.id, "try again", "It is being tried again.")}
            >
              Try again
            </Button>{" "}
            <Button
              small
              look="quiet"
              disabled={busy}
              aria-label={`Drop job ${j.id}`}
              onClick={() => settle(j.id, "drop", "It is dropped.")}
            >
              Drop
            </Button>
          </td>
        </tr>
      ))}
    </Table>
  );
}
