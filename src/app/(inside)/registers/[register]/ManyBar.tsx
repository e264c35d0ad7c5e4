"use client";
import { useState, useTransition } from "react";
import type { FactsData, RecordRights, RegisterShape } from "@/core/form";
import { KINDS } from "@/kinds";
import { fieldOfColumn } from "@/core/records";
import { FIELD_INPUTS } from "@/fields/inputs";
import { Banner, Button, Dialog, Select } from "@/ui";
import { changeRecordsAction, removeRecordsAction, type ManyAnswer } from "../../../actions/records";
import { say } from "../../../shell/say";
import { useCellContext } from "./useCellContext";

interface Props {
  register: string;
  shape: RegisterShape;
  ids: string[];
  titles: Readonly<Record<string, string>>;
  may: RecordRights;
  facts: FactsData;
  onDone(): void;
}

/** What is done to all records that were chosen: one column of theirs set, or they are removed. */
export function ManyBar({ register, shape, ids, titles, may, facts, onDone }: Props) {
  const [column, setColumn] = useState("");
  const [value, setValue] = useState<string | boolean | null>(null);
  const [removing, setRemoving] = useState(false);
  const [came, setCame] = useState<ManyAnswer["refused"]>([]);
  const [wrong, setWrong] = useState("");
  const [working, start] = useTransition();
  const c = shape.columns.find((x) => x.id === column);
  const context = useCellContext(facts);
  const run = (work: () => Promise<Awaited<ReturnType<typeof changeRecordsAction>>>, did: string) =>
    start(async () => {
      const r = await work().catch(() => null);
      setRemoving(false);
      if (!r?.ok)
        return setWrong(
          r?.sentence ?? "The server could not be reached. Nothing was done; try again in a moment.",
        );
      setWrong("");
      setCame(r.value.refused);
      say(`${r.value.changed} ${did}${r.value.same > 0 ? `, ${r.value.same} were so already` : ""}.`);
      if (r.value.refused.length === 0) onDone();
    });
  const count = `${ids.length} ${ids.length === 1 ? shape.one : `of ${shape.name}`}`;
  const Input = c && FIELD_INPUTS[c.kind].Input;
  return (
    <div
      className="mb-2 rounded border border-slate bg-slate-wash px-3 py-2"
      role="group"
      aria-label="The chosen"
    >
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <span className="font-medium">{count} chosen</span>
        {may.change && may.fill.length > 0 && (
          <>
            <Select
              className="!w-48"
              aria-label="Set which column"
              value={column}
              empty="set a column of all"
              onPick={(id) => {
                setColumn(id);
                setValue(null);
              }}
              options={shape.columns
                .filter((x) => may.fill.includes(x.id) && KINDS.fields[x.kind].idOf !== "file")
                .map((x) => ({ value: x.id, label: x.name }))}
            />
            {c && Input && (
              <>
                <span className="w-60">
                  <label className="sr-only" htmlFor="many-value">
                    {c.name} of all that are chosen
                  </label>
                  <Input
                    field={fieldOfColumn(c)}
                    id="many-value"
                    label={`${c.name} of all that are chosen`}
                    value={value}
                    onChange={setValue}
                    context={context}
                    invalid={false}
                  />
                </span>
                <Button
                  look="main"
                  small
                  disabled={working}
                  onClick={() => run(() => changeRecordsAction(register, ids, column, value), "changed")}
                >
                  {working ? "Changing…" : `Change ${ids.length}`}
                </Button>
              </>
            )}
          </>
        )}
        {may.remove && (
          <Button small look="quiet" onClick={() => setRemoving(true)}>
            Remove…
          </Button>
        )}
        <Button small look="quiet" onClick={onDone}>
          Choose none
        </Button>
      </div>
      {came.length > 0 && (
        <div className="mt-2" role="alert">
          <p className="text-brick">{came.length} stayed as they are:</p>
          <ul className="text-sm">
            {came.map((r) => (
              <li key={r.id}>
                {titles[r.id] ?? r.id}: {r.sentence}
              </li>
            ))}
          </ul>
        </div>
      )}
      <Dialog open={removing} onOpenChange={setRemoving} title={`Remove ${count}?`}>
        <p className="mb-4">
          Those that something still points at stay, and are told. What the others held stays in the history.
        </p>
        <div className="flex gap-2">
          <Button
            look="brick"
            disabled={working}
            onClick={() => run(() => removeRecordsAction(register, ids), "removed")}
          >
            {working ? "Removing…" : `Remove ${ids.length}`}
          </Button>
          <Button look="quiet" onClick={() => setRemoving(false)}>
            Keep them
          </Button>
        </div>
      </Dialog>
    </div>
  );
}
