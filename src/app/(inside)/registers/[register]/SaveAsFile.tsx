"use client";
import { Button, Menu } from "@/ui";

/** What is found, in its order and with the columns shown, as a file for a spreadsheet. */
export function SaveAsFile({ register, view }: { register: string; view: string }) {
  const save = (format: string) => {
    const q = new URLSearchParams(view);
    q.set("format", format);
    window.location.assign(`/api/registers/${register}?${q}`);
  };
  return (
    <Menu
      trigger={
        <Button small look="quiet">
          Save as a file…
        </Button>
      }
      groups={[
        {
          heading: "All that is found, as it is shown",
          items: [
            { id: "xlsx", label: "Spreadsheet (XLSX)", onPick: () => save("xlsx") },
            { id: "csv", label: "Plain rows (CSV)", onPick: () => save("csv") },
          ],
        },
      ]}
    />
  );
}
