"use client";
import { Button, Dialog } from "@/ui";
import type { FieldKind } from "@/core/form";
import type { Edit } from "@/core/route";
import type { ValueConverted } from "./sampleValues";

/** A field that is to become another kind, and what its values in samples come to with it. */
export interface KindChanging {
  name: string;
  kind: FieldKind;
  changes: readonly ValueConverted[];
  edit: Edit;
}
/** Values that are listed. */
const MOST = 50;

/** What another kind of a field makes of the samples' values, before and after, to be agreed to or left. */
export function KindDialog({
  changing,
  onDone,
}: {
  changing: KindChanging;
  /** @param agreed whether the kind is to be changed */
  onDone(agreed: boolean): void;
}) {
  const { name, kind, changes } = changing;
  const lost = changes.filter((c) => c.lost).length;
  const leave = <Button onClick={() => onDone(false)}>Leave it as it is</Button>;
  return (
    <Dialog open title={`${name} becomes: ${kind}`} onOpenChange={(open) => !open && onDone(false)}>
      <p className="mb-3">
        {lost === 0
          ? "Its values in samples read otherwise then."
          : `${lost === 1 ? "One value" : `${lost} values`} in samples cannot be kept, and will be empty. Undo brings them back.`}
      </p>
      <table className="sheet-table mb-4">
        <thead>
          <tr>
            <th>Sample</th>
            <th>Before</th>
            <th>After</th>
          </tr>
        </thead>
        <tbody>
          {changes.slice(0, MOST).map((c, i) => (
            <tr key={i}>
              <td>
                {c.sample}
                {c.line !== null && `, line ${c.line}`}
              </td>
              <td className="[overflow-wrap:anywhere]">{c.before}</td>
              <td className="[overflow-wrap:anywhere]">
                {c.lost ? <span className="text-brick">empty</span> : c.after}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {changes.length > MOST && <p className="mb-3 text-soft">and {changes.length - MOST} more</p>}
      {/* The first has the focus: where something is lost, that is not what Enter does. */}
      <div className="flex gap-2">
        {lost > 0 && leave}
        <Button look="main" onClick={() => onDone(true)}>
          Change the kind
        </Button>
        {lost === 0 && leave}
      </div>
    </Dialog>
  );
}
