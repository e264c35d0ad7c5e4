import Link from "next/link";
import { recordForm } from "@/services";
import { PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../../shell/Missing";
import { RecordEditor } from "../RecordEditor";

export default async function NewRecordPage({ params }: { params: Promise<{ register: string }> }) {
  const { register } = await params;
  const actor = await requireActor(`/registers/${register}/new`);
  const r = await answerOf(await recordForm(actor, register, null));
  if (!r.ok) return <Missing sentence={r.sentence} back={{ href: `/registers/${register}`, name: "Back" }} />;
  const { source, one, name, version, draft } = r.value;
  return (
    <>
      <PageHeader
        above={
          <Link className="link" href={`/registers/${register}`}>
            {name}
          </Link>
        }
        title={`New ${one}`}
      />
      <RecordEditor register={register} id={null} one={one} source={source} version={version} draft={draft} />
    </>
  );
}
