"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { Banner, Button } from "@/ui";

interface Props {
  /** Null where a register is to be made of it. */
  register: string | null;
  example: string[];
  /** Where it goes on, before the sheet's id. */
  leadsTo: string;
}

/** Takes a sheet, as a file or as pasted rows, and leads to what comes of it. */
export function GiveSheet({ register, example, leadsTo }: Props) {
  const router = useRouter();
  const [rows, setRows] = useState("");
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const send = async (name: string, body: Blob) => {
    setWrong("");
    setBusy(true);
    const q = new URLSearchParams({ name, ...(register === null ? {} : { register }) });
    const answer = await fetch(`/api/sheets?${q}`, { method: "POST", body }).catch(() => null);
    const said = (await answer?.json().catch(() => null)) as { id?: string; sentence?: string } | null;
    if (answer?.ok && said?.id) return router.push(`${leadsTo}/${said.id}`);
    setBusy(false);
    setWrong(said?.sentence ?? "The server could not be reached. Your rows are still here; try again.");
  };
  return (
    <section aria-labelledby="give" className="min-w-0">
      <h2 id="give" className="mb-2">
        The sheet
      </h2>
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <label className="mb-4 block">
        <span className="mb-1 block">A CSV or XLSX file</span>
        <input
          type="file"
          accept=".csv,.tsv,.txt,.xlsx,text/csv,text/plain"
          className="input"
          disabled={busy}
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) void send(file.name, file);
          }}
        />
      </label>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void send("Pasted rows", new Blob([rows], { type: "text/plain" }));
        }}
      >
        <label className="block">
          <span className="mb-1 block">or its rows; the first line names the columns</span>
          <textarea
            rows={10}
            className="input font-mono text-sm"
            value={rows}
            placeholder={`${example.join(",")}\n…`}
            onChange={(e) => setRows(e.target.value)}
          />
        </label>
        <p className="mt-2 mb-3 text-sm text-soft">
          Rows copied from a spreadsheet can be pasted as they are. Up to 100,000 rows are taken at once.
        </p>
        <Button look="main" type="submit" disabled={busy || rows.trim() === ""}>
          {busy ? "Sending…" : "Look at these"}
        </Button>
      </form>
    </section>
  );
}
