"use client";
import { flatFields, isKeptValue, type Field } from "@/core/form";
import { Boxes } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "./Chip";

/** What keeps its value in a form, columns with their line items. */
const keptIn = (fields: readonly Field[]): { id: string; label: string }[] =>
  flatFields(fields).flatMap((f) =>
    f.kind === "lines"
      ? (f.fields ?? []).filter(isKeptValue).map((c) => ({ id: c.id, label: `${c.name} of ${f.name}` }))
      : [f].filter(isKeptValue).map(({ id, name }) => ({ id, label: name })),
  );

/** Which copied and fixed values an answer reads anew; not there where a form has none. */
export function AnewChip({
  anew = [],
  onPick,
}: {
  anew: readonly string[] | undefined;
  onPick(anew: string[] | null): void;
}) {
  const fields = useDraft((d) => d.definition.fields);
  const kept = keptIn(fields);
  // What is not kept any more must be seen to be taken away.
  const lost = anew.filter((id) => !kept.some((k) => k.id === id));
  if (kept.length === 0 && lost.length === 0) return null;
  const options = [...kept, ...lost.map((id) => ({ id, label: `${nameOf(fields, id)}, which is not kept` }))];
  const said = options.filter((o) => anew.includes(o.id)).map((o) => o.label);
  return (
    <span>
      reads{" "}
      <Chip text={said.join(", ") || "nothing"} label="Values read anew" width={420}>
        {() => (
          <div className="grid gap-2 text-sm">
            <Boxes
              label="Read anew when it is pressed"
              options={options.map((o) => ({ value: o.id, label: o.label }))}
              chosen={anew}
              onChoose={(ids) => onPick(ids.length > 0 ? ids : null)}
            />
            <p className="text-soft">
              Whoever presses sees first what has come to be another value, and what follows from it. All
              other copies stay as they are.
            </p>
          </div>
        )}
      </Chip>{" "}
      anew
    </span>
  );
}

const nameOf = (fields: readonly Field[], id: string): string =>
  flatFields(fields)
    .flatMap((f) => [f, ...(f.fields ?? [])])
    .find((f) => f.id === id)?.name ?? id;
