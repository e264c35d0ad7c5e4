"use client";
import { isHeading, stepKind } from "@/core/kinds";
import { placesOf, type Edit, type Step } from "@/core/route";
import { KINDS } from "@/kinds";
import { classes } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "./Chip";
import { newId } from "./newId";
import { wayOn } from "./wayOn";

/** Where an answer or way leads: on, to another step, to an end, or through steps of its own. */
export function WayOnChip({ step, list, steps }: { step: string; list: string; steps: readonly Step[] }) {
  const d = useDraft();
  const places = placesOf(d.definition, KINDS);
  const way = wayOn(steps, KINDS);
  const fresh = (stem: string) => newId(stem, (id) => places.has(id));
  const ends = new Map<string, Step>();
  for (const p of places.values()) {
    const exit = stepKind(KINDS, p.step).exit(p.step);
    if (exit && "ends" in exit) ends.set(`${exit.ends}|${exit.tone}`, p.step);
  }
  /** What stands there goes, and this comes in its place, as one edit. */
  const put = (next: Step | null) => {
    const edits: Edit[] = steps.map((s) => ({ op: "step.remove", id: s.id }));
    if (next) edits.push({ op: "step.add", to: { owner: step, list }, after: null, step: next });
    d.edit({ op: "batch", edits });
  };
  const item = "w-full rounded px-2 py-1 text-left hover:bg-slate-wash";
  return (
    <Chip text={words(steps, way, (id) => places.get(id))} label="Leads to">
      {(close) => {
        const pick = (next: Step | null) => {
          put(next);
          close();
        };
        return (
          <div>
            {!way && (
              <p className="mb-2 text-sm text-soft">
                Choosing here replaces its {steps.length} steps; undo brings them back.
              </p>
            )}
            <button
              type="button"
              className={classes(item, way?.kind === "on" && "font-medium")}
              onClick={() => pick(null)}
            >
              goes on with the next step
            </button>
            {[...ends.values()].map((s) => (
              <button
                key={s.id}
                type="button"
                className={item}
                onClick={() => pick({ ...s, id: fresh("finish") })}
              >
                {exitWords(s)}
              </button>
            ))}
            <button
              type="button"
              className={item}
              onClick={() =>
                pick({
                  ...KINDS.steps.finish.blank(fresh("finish")),
                  result: "declined",
                  tone: "refuse",
                } as Step)
              }
            >
              ends with a new result
            </button>
            <p className="mt-2 border-t border-line pt-2 text-sm text-soft">or goes to</p>
            {[...places.values()]
              .filter((p) => !isHeading(KINDS, p.step))
              .map((p) => (
                <button
                  key={p.step.id}
                  type="button"
                  className={classes(item, way?.kind === "to" && way.to === p.step.id && "font-medium")}
                  onClick={() => pick({ ...KINDS.steps.jump.blank(fresh("jump")), to: p.step.id } as Step)}
                >
                  {p.number} {p.step.name}
                </button>
              ))}
          </div>
        );
      }}
    </Chip>
  );
}

function exitWords(s: Step): string {
  const exit = stepKind(KINDS, s).exit(s);
  return exit && "ends" in exit ? `ends as “${exit.ends}”` : "";
}

function words(
  steps: readonly Step[],
  way: ReturnType<typeof wayOn>,
  place: (id: string) => { number: string; step: Step } | undefined,
): string {
  if (!way) return `${steps.length} ${steps.length === 1 ? "step" : "steps"} of its own`;
  switch (way.kind) {
    case "on":
      return "goes on";
    case "to": {
      const p = place(way.to);
      return p ? `${p.number} ${p.step.name}` : "? no step yet";
    }
    case "ends":
      return `ends as “${way.ends}”`;
  }
}
