import type { Metadata } from "next";
import Link from "next/link";
import { removedRecords } from "@/services";
import { Empty, PageHeader, Table, whenText } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../../shell/Missing";
import { PutBack } from "../[record]/RecordDeeds";

export const metadata: Metadata = { title: "Removed records" };

export default async function RemovedPage({ params }: { params: Promise<{ register: string }> }) {
  const { register } = await params;
  const actor = await requireActor(`/registers/${register}/removed`);
  const found = await answerOf(await removedRecords(actor, register));
  if (!found.ok)
    return <Missing sentence={found.sentence} back={{ href: "/registers", name: "Registers" }} />;
  const { shape, mayAdd, removed } = found.value;
  return (
    <>
      <PageHeader
        above={
          <Link className="link" href={`/registers/${register}`}>
            {shape.name}
          </Link>
        }
        title={`Removed from ${shape.name}`}
        lead={`The last first. What is put back is a new ${shape.one} that holds the same; links to it stay empty.`}
      />
      {removed.length === 0 ? (
        <Empty title="Nothing was removed">
          What somebody removes from {shape.name} stands here until it is put back.
        </Empty>
      ) : (
        <Table
          aria-label={`Removed from ${shape.name}`}
          head={["Called", "Removed", "By", { id: "deeds", name: "Put back", hidden: true }]}
        >
          {removed.map((r) => (
            <tr key={r.change} data-row>
              <td>{r.title}</td>
              <td className="whitespace-nowrap text-soft">{whenText(r.at, actor.zone)}</td>
              <td>
                {r.by ?? "Cobble Step"}
                {r.request && (
                  <>
                    {" "}
                    by{" "}
                    <Link className="link" href={`/requests/${r.request}`} prefetch={false}>
                      {r.request}
                    </Link>
                  </>
                )}
              </td>
              <td>{mayAdd && <PutBack register={register} change={r.change} what={r.title} />}</td>
            </tr>
          ))}
        </Table>
      )}
    </>
  );
}
