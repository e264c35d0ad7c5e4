import Link from "next/link";
import type { LateTask } from "@/services";
import { buttonClass, PageHeader } from "@/ui";
import { Trail } from "../../../../shell/Trail";

/** A task that does not wait for its reader any more: what became of it, and the way to the request. */
export function Late({ task, sentence, zone }: { task: LateTask; sentence: string; zone: string }) {
  return (
    <div className="max-w-3xl">
      <PageHeader
        above={`${task.number} · ${task.process}`}
        title={task.title}
        lead={`${task.step}${task.about ? ` (${task.about})` : ""}: ${sentence}`}
      />
      {task.lines.length > 0 && (
        <>
          <h2 className="mb-2">What happened</h2>
          <Trail lines={task.lines} zone={zone} />
        </>
      )}
      <p className="mt-5 flex gap-2">
        <Link className={buttonClass("main")} href={`/requests/${task.number}`} prefetch={false}>
          Go to the request
        </Link>
        <Link className={buttonClass()} href="/desk">
          Go to Desk
        </Link>
      </p>
    </div>
  );
}
