import type { Metadata } from "next";
import Link from "next/link";
import { rightsPage } from "@/services";
import { PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../../shell/Missing";
import { Rights } from "./Rights";

export const metadata: Metadata = { title: "Who may see a register" };

export default async function RightsPage({ params }: { params: Promise<{ register: string }> }) {
  const { register } = await params;
  const actor = await requireActor(`/registers/${register}/rights`);
  const found = await answerOf(await rightsPage(actor, register));
  if (!found.ok)
    return <Missing sentence={found.sentence} back={{ href: "/registers", name: "Registers" }} />;
  const { shape } = found.value;
  return (
    <>
      <PageHeader
        above={
          <Link className="link" href={`/registers/${register}`}>
            {shape.name}
          </Link>
        }
        title={`Who may see ${shape.name}`}
        lead="Nobody sees what is not said here. What a form or a request shows of a record is cut to it, too."
      />
      {/* Kept, it begins again with what is kept. */}
      <Rights key={JSON.stringify(found.value.rights)} register={register} page={found.value} />
    </>
  );
}
