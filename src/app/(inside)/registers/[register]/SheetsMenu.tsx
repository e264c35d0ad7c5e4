"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { Button, Menu } from "@/ui";
import { LabelsDialog } from "./LabelsDialog";

interface Props {
  register: string;
  /** The parameters of the list's address. */
  view: string;
  /** Whether they may bring records in. */
  brings: boolean;
  /** Ids of the columns that are shown. */
  columns: readonly string[];
  /** What one record is called, how many are found, and the first of them cell by cell. */
  one: string;
  total: number;
  first: readonly (readonly string[])[];
}

/** A sheet is brought in, or what is found saved as one, or printed, in its order and with the columns shown. */
export function SheetsMenu({ register, view, brings, columns, one, total, first }: Props) {
  const router = useRouter();
  const [labels, setLabels] = useState(false);
  // What is read is what is shown; what is reckoned with is all of it.
  const shown = new URLSearchParams(view);
  shown.set("cols", columns.join(","));
  const save = (format: string, of: string) => {
    const q = new URLSearchParams(of);
    q.set("format", format);
    window.location.assign(`/api/registers/${register}?${q}`);
  };
  const bring = {
    id: "bring",
    label: "Bring in a sheet",
    onPick: () => router.push(`/registers/${register}/import`),
  };
  return (
    <>
      <Menu
        trigger={
          <Button small look="quiet">
            Sheets…
          </Button>
        }
        groups={[
          ...(brings ? [{ items: [bring] }] : []),
          {
            heading: "Save all that is found, as it is shown",
            items: [
              { id: "xlsx", label: "As a spreadsheet (XLSX)", onPick: () => save("xlsx", view) },
              { id: "csv", label: "As plain rows (CSV)", onPick: () => save("csv", view) },
            ],
          },
          {
            heading: "Print all that is found",
            items: [
              { id: "pdf", label: "As a list (PDF)", onPick: () => save("pdf", `${shown}`) },
              { id: "labels", label: "As labels…", onPick: () => setLabels(true) },
            ],
          },
        ]}
      />
      {labels && (
        <LabelsDialog
          register={register}
          view={`${shown}`}
          one={one}
          total={total}
          first={first}
          onClose={() => setLabels(false)}
        />
      )}
    </>
  );
}
