import type { Field } from "@/core/form";
import { Detail } from "./Detail";
import { distinct } from "./distinct";
import { TextCell } from "./TextCell";

/** Which kinds of files a field takes, by the endings of their names. */
export function EndingsDetail({
  field,
  onSet,
}: {
  field: Pick<Field, "name" | "options">;
  onSet(patch: { options: string[] | null }): void;
}) {
  return (
    <Detail says="Kinds of files">
      <TextCell
        className="input max-w-80"
        aria-label={`Kinds of files of ${field.name}`}
        placeholder="any; or endings, for example pdf, jpg"
        value={(field.options ?? []).join(", ")}
        onCommit={(t) => {
          const endings = t.toLowerCase().split(/[\s,;]+/);
          const options = distinct(endings.map((o) => o.replace(/^\./, "")));
          onSet({ options: options.length > 0 ? options : null });
        }}
      />
    </Detail>
  );
}
