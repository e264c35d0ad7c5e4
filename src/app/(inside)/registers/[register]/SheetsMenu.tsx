"use client";
import { useRouter } from "next/navigation";
import { Button, Menu } from "@/ui";

interface Props {
  register: string;
  /** The parameters of the list's address. */
  view: string;
  /** Whether they may bring records in. */
  brings: boolean;
}

/** A sheet is brought in, or what is found saved as one, in its order and with the columns shown. */
export function SheetsMenu({ register, view, brings }: Props) {
  const router = useRouter();
  const save = (format: string) => {
    const q = new URLSearchParams(view);
    q.set("format", format);
    window.location.assign(`/api/registers/${register}?${q}`);
  };
  const bring = {
    id: "bring",
    label: "Bring in a sheet",
    onPick: () => router.push(`/registers/${register}/import`),
  };
  return (
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
            { id: "xlsx", label: "As a spreadsheet (XLSX)", onPick: () => save("xlsx") },
            { id: "csv", label: "As plain rows (CSV)", onPick: () => save("csv") },
          ],
        },
      ]}
    />
  );
}
