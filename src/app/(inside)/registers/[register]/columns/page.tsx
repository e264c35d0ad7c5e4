import Link from "next/link";
import { columnSheet, nowFor, reshapeOf } from "@/services";
import { PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../../shell/Missing";
import { ColumnSheet } from "./ColumnSheet";
import { Reshaping } from "./Reshaping";

export default async function Page({ params }: { params: Promise<{ register: string }> }) {
  const { register } = await params;
  const actor = await requireActor(`/registers/${register}/columns`);
  const r = await answerOf(await columnSheet(actor, register));
  if (!r.ok) return <Missing sentence={r.sentence} back={{ href: "/registers", name: "Registers" }} />;
  const { shape, registers } = r.value;
  const reshape = await reshapeOf(actor, register);
  return (
    <>
      <PageHeader
        above={
          <Link className="link" href={`/registers/${register}`}>
            {shape.name}
          </Link>
        }
        title={`Columns of ${shape.name}`}
        lead="What a record holds, and what holds for every record before it is kept, whoever writes it."
      />
      {reshape && <Reshaping register={register} reshape={reshape} />}
      <ColumnSheet
        shape={shape}
        registers={registers}
        now={await nowFor()}
        zone={actor.zone}
        waits={reshape?.state === "working" || reshape?.state === "asks"}
      />
    </>
  );
}
