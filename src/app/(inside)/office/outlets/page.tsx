import type { Metadata } from "next";
import { outletsShown } from "@/services";
import { PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";
import { OutletForm } from "./OutletForm";

export const metadata: Metadata = { title: "Shelf and printing" };

export default async function OutletsPage() {
  const actor = await requireActor("/office/outlets");
  const all = await answerOf(await outletsShown(actor));
  if (!all.ok)
    return (
      <Missing
        sentence="The file shelf and the print room are seen to by those with the rights of the office."
        back={{ href: "/office", name: "Office" }}
      />
    );
  const shown = (kind: "shelf" | "print room") => all.value.find((o) => o.kind === kind) ?? null;
  return (
    <>
      <PageHeader
        title="Shelf and printing"
        lead="Where steps of processes bring documents. What is not taken there for a quarter of an hour stands on Progress, with the reason."
      />
      <div className="grid gap-8">
        <OutletForm
          kind="shelf"
          title="File shelf"
          lead="Folders that are reached by WebDAV (RFC 4918). Nothing that lies there is written over."
          example="https://files.example.org/shelf"
          shown={shown("shelf")}
        />
        <OutletForm
          kind="print room"
          title="Print room"
          lead="Takes PDFs, as docs/print-room.json describes; by its key the same document is not printed twice."
          example="https://print.example.org"
          shown={shown("print room")}
        />
      </div>
    </>
  );
}
