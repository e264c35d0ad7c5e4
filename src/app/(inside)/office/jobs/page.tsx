import type { Metadata } from "next";
import { deadJobs } from "@/services";
import { Empty, PageHeader } from "@/ui";
import { requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";
import { DeadJobs } from "./DeadJobs";

export const metadata: Metadata = { title: "Jobs that gave up" };

export default async function JobsPage() {
  const actor = await requireActor("/office/jobs");
  if (!actor.officeRights)
    return (
      <Missing
        sentence="Jobs are seen to by those with the rights of the office."
        back={{ href: "/office", name: "Office" }}
      />
    );
  const jobs = await deadJobs(actor);
  return (
    <>
      <PageHeader
        title="Jobs that gave up"
        lead="What Cobble Step was to do by itself and could not, however often it tried. What nobody sees to goes after ninety days."
      />
      {jobs.length === 0 ? (
        <Empty title="None">Everything that was to be done has been done, or is still being tried.</Empty>
      ) : (
        <DeadJobs jobs={jobs} zone={actor.zone} />
      )}
    </>
  );
}
