import type { Metadata } from "next";
import Link from "next/link";
import { redirect } from "next/navigation";
import { newSheetPage } from "@/services";
import { Banner, buttonClass, PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../../shell/Missing";
import { Follow } from "../../[register]/import/[sheet]/Follow";
import { NameColumns } from "./NameColumns";

export const metadata: Metadata = { title: "A register from a sheet" };

export default async function NameColumnsPage({ params }: { params: Promise<{ sheet: string }> }) {
  const { sheet: id } = await params;
  const actor = await requireActor(`/registers/from-a-sheet/${id}`);
  const found = await answerOf(await newSheetPage(actor, id));
  if (!found.ok)
    return <Missing sentence={found.sentence} back={{ href: "/registers", name: "Registers" }} />;
  const { sheet, guesses } = found.value;
  if (sheet.register_key !== null) redirect(`/registers/${sheet.register_key}/import/${sheet.id}`);
  return (
    <>
      <PageHeader
        above={
          <Link className="link" href="/registers">
            Registers
          </Link>
        }
        title={`A register from ${sheet.name}`}
        lead="What its columns hold is guessed by what stands in them. Change what is not right; nothing is made before you say so."
      />
      {sheet.status === "reading" && (
        <Follow id={sheet.id} status={sheet.status} done={sheet.done} total={sheet.total} />
      )}
      {sheet.why && <Banner tone="bad">{sheet.why}</Banner>}
      {sheet.notes.map((n) => (
        <Banner key={n} tone="soon">
          {n}
        </Banner>
      ))}
      {sheet.status === "naming" ? (
        <NameColumns id={sheet.id} headings={sheet.headings} guesses={guesses} rows={sheet.total} />
      ) : (
        sheet.status !== "reading" && (
          <Link className={buttonClass("plain")} href="/registers/from-a-sheet">
            Another sheet
          </Link>
        )
      )}
    </>
  );
}
