import type { Metadata } from "next";
import { keptFiles } from "@/services";
import { PageHeader, sizeText, Table } from "@/ui";
import { requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";

export const metadata: Metadata = { title: "Files" };

const HEAD = [
  "What they belong to",
  { id: "files", name: "Files", figures: true },
  { id: "size", name: "Size", figures: true },
  { id: "part", name: "Of all files", figures: true },
];

export default async function FilesPage() {
  const actor = await requireActor("/office/files");
  const kept = await keptFiles(actor);
  if (!kept)
    return (
      <Missing
        sentence="What is kept in files is shown to those with the rights of the office."
        back={{ href: "/office", name: "Office" }}
      />
    );
  const { rows, files, bytes, once, database } = kept;
  const places = [
    ...(once.database > 0 || once.folder === 0 ? [`${sizeText(once.database)} in the database`] : []),
    ...(once.folder > 0 ? [`${sizeText(once.folder)} in their folder`] : []),
  ];
  const part = (n: number) => (bytes === 0 ? "" : `${((100 * n) / bytes).toFixed(1)} %`);
  return (
    <>
      <PageHeader
        title="Files"
        lead={`${files.toLocaleString("en-IE")} ${files === 1 ? "file" : "files"}, ${sizeText(bytes)} together. Those of requests, records and mails are kept once where they are alike: ${places.join(", ")}. The whole database, with records, trails and indexes, has ${sizeText(database)}.`}
      />
      <Table head={HEAD}>
        {rows.map((r) => (
          <tr key={r.key}>
            <td>{r.of}</td>
            <td className="text-right tabular-nums">{r.files.toLocaleString("en-IE")}</td>
            <td className="text-right tabular-nums">{sizeText(r.bytes)}</td>
            <td className="text-right text-soft tabular-nums">{part(r.bytes)}</td>
          </tr>
        ))}
      </Table>
    </>
  );
}
