"use client";
import { useMemo } from "react";
import { ITEM, ITEM_NUMBER } from "@/core/document";
import { firstThing } from "@/core/engine";
import { ANY, checkFormula, listOf, NUMBER, type Names, type Scope } from "@/core/expression";
import { gridMistake } from "@/core/paper";
import { LabelPage } from "@/ui";
import { Chip, FormulaCell, TemplateCell, useDraft, useSampleAt } from "@/workshop/parts";
import type { LabelsOf } from "./shape";

interface LabelsProps {
  labels: LabelsOf;
  scope: Scope;
  put(patch: Partial<LabelsOf>): void;
}

/** For what there are labels. */
export function LabelsForChip({ labels, scope, put }: LabelsProps) {
  return (
    <Chip
      text={labels.of ? `one for each of ${labels.of}` : "for nothing yet"}
      label="What there are labels for"
      empty={!labels.of}
      width={440}
    >
      {() => (
        <div className="grid gap-2 text-sm">
          <FormulaCell
            label="What there are labels for"
            value={labels.of}
            scope={scope}
            wanted={listOf(ANY)}
            onCommit={(of) => put({ of })}
          />
          <p className="text-soft">
            Records that were found, line items or any other list. Where there are none no file is made, and
            the request goes on.
          </p>
        </div>
      )}
    </Chip>
  );
}

/** The names of the first thing there is a label for, for the chosen sample; null where that is not known here. */
function useFirst(of: string): Names | null {
  const turn = useDraft((d) => d.turn);
  const at = useSampleAt();
  return useMemo(() => {
    const settled = at && turn?.release.places.get(at.step)?.step;
    return settled?.kind === "draw up" && settled.labels?.of === of && at && of
      ? firstThing(turn!, at, "labels", of)
      : null;
  }, [turn, at, of]);
}

/** What stands on each. */
export function LabelTextChip({ labels, scope, put }: LabelsProps) {
  const inThing = useMemo(() => scopeOfThing(labels.of, scope), [labels.of, scope]);
  const first = useFirst(labels.of);
  const written = [labels.heading, ...labels.text.split("\n")].filter((x) => x.trim());
  return (
    <Chip
      text={written.join(" / ") || "with nothing on them"}
      label="What stands on a label"
      empty={written.length === 0}
      width={460}
    >
      {() => (
        <div className="grid gap-2 text-sm">
          <span className="text-soft">In bold</span>
          <TemplateCell
            label="In bold on a label"
            value={labels.heading}
            scope={inThing}
            own={first}
            onCommit={(heading) => put({ heading })}
          />
          <span className="text-soft">Below it, a line each</span>
          <TemplateCell
            label="Lines of a label"
            value={labels.text}
            lines={3}
            scope={inThing}
            own={first}
            onCommit={(text) => put({ text })}
          />
          <p className="text-soft">
            What each thing has is read by its own name, for example {"{Title}"}; {"{number}"} is which of
            them it is. What is too long for its label ends with an ellipsis.
          </p>
        </div>
      )}
    </Chip>
  );
}

/** A thing's own names come before those of the route. */
function scopeOfThing(of: string, scope: Scope): Scope {
  const { type } = checkFormula(of, scope);
  const item = type.t === "list" ? type.of : ANY;
  return { ...scope, [ITEM]: item, [ITEM_NUMBER]: NUMBER, ...(item.t === "context" ? item.fields : {}) };
}

const PARTS = [
  { key: "across", says: "beside each other" },
  { key: "down", says: "below each other" },
  { key: "margin", says: "mm around all of them" },
] as const;

/** How the sheet is parted, beside how that looks. */
export function GridChip({ labels, put }: Omit<LabelsProps, "scope">) {
  const { across, down, margin } = labels;
  const wrong = gridMistake({ ...labels, skip: 0 });
  return (
    <Chip text={`${across} × ${down} on a page`} label="How the page is parted" width={380}>
      {() => (
        <div className="flex gap-4 text-sm">
          <div className="grid flex-1 content-start gap-2">
            {PARTS.map(({ key, says }) => (
              <label key={key} className="flex items-center gap-2">
                <input
                  type="number"
                  className="input w-16"
                  min={key === "margin" ? 0 : 1}
                  value={labels[key]}
                  onChange={(e) => put({ [key]: Number(e.target.value) })}
                />
                <span className="text-soft">{says}</span>
              </label>
            ))}
            <p className={wrong ? "text-brick" : "text-soft"}>
              {wrong ??
                `${across * down} labels of ${sideOf(210, margin, across)} × ${sideOf(297, margin, down)} mm on a page of A4.`}
            </p>
          </div>
          {!wrong && <LabelPage {...{ across, down, margin }} className="h-40 shrink-0 self-start" />}
        </div>
      )}
    </Chip>
  );
}

/** Of a label, in millimetres. */
const sideOf = (page: number, margin: number, count: number): string =>
  ((page - 2 * margin) / count).toFixed(1).replace(/\.0$/, "");
