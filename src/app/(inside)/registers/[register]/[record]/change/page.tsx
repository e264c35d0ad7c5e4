import Link from "next/link";
import { recordForm } from "@/services";
import { PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../../../shell/Missing";
import { RecordEditor } from "../../RecordEditor";

export default async function ChangeRecordPage({
  params,
}: {
  params: Promise<{ register: string; record: string }>;
}) {
  const { register, record: id } = await params;
  const actor = await requireActor(`/registers/${register}/${id}/change`);
  const r = await answerOf(await recordForm(actor, register, id));
  if (!r.ok) return <Missing sentence={r.sentence} back={{ href: `/registers/${register}`, name: "Back" }} />;
  const { source, one, version, draft, title } = r.value;
  return (
    <>
      <PageHeader
        above={
          <Link className="link" href={`/registers/${register}/${id}`}>
            {title}
          </Link>
        }
        title={`Change ${title}`}
      />
      <RecordEditor register={register} id={id} one={one} source={source} version={version} draft={draft} />
    </>
  );
}
