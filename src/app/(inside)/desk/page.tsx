import type { Metadata } from "next";
import { besideStep } from "@/core/words";
import { covered, desk } from "@/services";
import { Empty, PageHeader } from "@/ui";
import { requireActor } from "@/web";
import { DeskList } from "./DeskList";
import { WithCovers } from "./WithCovers";

export const metadata: Metadata = { title: "Desk" };

const SHOWN_COVERED = 20;
/** Of a desk that is fuller than anybody works off, the soonest are shown. */
const SHOWN = 100;

export default async function DeskPage() {
  const actor = await requireActor("/desk");
  const [{ rows, total }, away] = await Promise.all([desk(actor, SHOWN), covered(actor, SHOWN_COVERED)]);
  const late = rows.filter((r) => r.left?.tone === "late").length;
  return (
    <>
      <PageHeader
        title="Desk"
        lead={
          total === 0
            ? undefined
            : `${total} ${total === 1 ? "thing waits" : "things wait"} for you, soonest limit first${late > 0 ? `; ${late} past the limit` : ""}.`
        }
      />
      {rows.length === 0 ? (
        <Empty title="Nothing waits for you">
          When somebody needs your answer it appears here by itself, without reloading.
        </Empty>
      ) : (
        <DeskList
          zone={actor.zone}
          rows={rows.map((r) => ({
            href: `/desk/${r.number}/${r.task_id}`,
            number: r.number,
            title: r.title,
            process: r.process_name,
            step: besideStep(r.purpose, r.step_name),
            about: r.about,
            requester: r.requester_name,
            due: r.due_at,
            left: r.left,
            shared: r.shared,
            taken: r.status === "taken",
            coversFor: r.covers_for,
            task: r.task_id,
            withOthers: r.with_others,
          }))}
        />
      )}
      {total > rows.length && (
        <p className="mt-3 text-sm text-soft">
          The {rows.length} with the soonest limits are shown; {total - rows.length} more follow as these are
          answered.
        </p>
      )}
      {away.total > 0 && <WithCovers rows={away.rows} total={away.total} />}
    </>
  );
}
