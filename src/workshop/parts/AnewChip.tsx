"use client";
import { flatFields, isKeptValue, type Field } from "@/core/form";
import { Boxes } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "./Chip";

interface Props {
  anew: readonly string[] | undefined;
  onPick(anew: string[] | null): void;
}

/** What keeps its value in a form, columns with their line items. */
const keptIn = (fields: readonly Field[]): { value: string; label: string }[] =>
  flatFields(fields).flatMap((f) =>
    f.kind === "lines"
      ? (f.fields ?? []).filter(isKeptValue).map((c) => ({ value: c.id, label: `${c.name} of ${f.name}` }))
      : [f].filter(isKeptValue).map(({ id, name }) => ({ value: id, label: name })),
  );

/** What can be read anew; what is not kept any more must be seen to be taken away. */
function useKept(anew: readonly string[]): { value: string; label: string }[] {
  const fields = useDraft((d) => d.definition.fields);
  const kept = keptIn(fields);
  const all = flatFields(fields).flatMap((f) => [f, ...(f.fields ?? [])]);
  const lost = anew.filter((id) => !kept.some((k) => k.value === id));
  const nameOf = (id: string) => all.find((f) => f.id === id)?.name ?? "something that is gone";
  return [...kept, ...lost.map((id) => ({ value: id, label: `${nameOf(id)}, which is not kept` }))];
}

/** Which copied and fixed values are read anew with an answer; nothing where a form has none. */
export function AnewChoice({ anew = [], onPick }: Props) {
  const options = useKept(anew);
  if (options.length === 0) return null;
  return (
    <div className="grid gap-1.5 text-sm">
      <span className="text-soft" aria-hidden>
        Read anew when it is pressed
      </span>
      <Boxes
        label="Read anew when it is pressed"
        options={options}
        chosen={anew}
        onChoose={(ids) => onPick(ids.length > 0 ? ids : null)}
      />
      <p className="text-soft">
        Whoever presses sees first what has come to be another value, and what follows from it. All other
        copies stay as they are.
      </p>
    </div>
  );
}

/** The same as a piece of a sentence. */
export function AnewChip({ anew = [], onPick }: Props) {
  const options = useKept(anew);
  if (options.length === 0) return null;
  const said = options.filter((o) => anew.includes(o.value)).map((o) => o.label);
  return (
    <span>
      reads{" "}
      <Chip text={said.join(", ") || "nothing"} label="Values read anew" width={420}>
        {() => <AnewChoice anew={anew} onPick={onPick} />}
      </Chip>{" "}
      anew
    </span>
  );
}
