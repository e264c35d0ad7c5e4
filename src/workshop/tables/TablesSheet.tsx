"use client";
import { Plus } from "lucide-react";
import Link from "next/link";
import { useEffect, useMemo, useState } from "react";
import { placesOf, RouteScopes, type StepOf } from "@/core/route";
import { KINDS } from "@/kinds";
import { Button, classes, Empty } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { newId } from "../parts/newId";
import { StepHere } from "../parts/StepHere";
import { TableSheet } from "./TableSheet";

type Apply = StepOf<"apply">;

/** The decision tables of a process, each where its step stands on the route: the chosen one, rule by rule. */
export function TablesSheet() {
  const d = useDraft();
  const { definition, office } = d;
  const tables = useMemo(
    () => [...placesOf(definition, KINDS).values()].flatMap((p) => (p.step.kind === "apply" ? [p] : [])),
    [definition],
  );
  const scopes = useMemo(
    () => new RouteScopes(definition, { registers: office.registers, kinds: KINDS }),
    [definition, office.registers],
  );
  const [picked, setPicked] = useState("");
  useEffect(() => {
    // The route sheet leads to a table by the address.
    const follow = () => setPicked(decodeURIComponent(window.location.hash.slice(1)));
    follow();
    window.addEventListener("hashchange", follow);
    return () => window.removeEventListener("hashchange", follow);
  }, []);
  const chosen = tables.find((p) => p.step.id === picked) ?? tables[0];
  const pick = (id: string) => {
    setPicked(id);
    window.history.replaceState(null, "", `#${id}`);
  };
  const add = () => {
    const taken = placesOf(definition, KINDS);
    const step = KINDS.steps.apply.blank(newId("table", (x) => taken.has(x)));
    if (d.edit({ op: "step.add", to: { owner: null, list: null }, after: null, step })) pick(step.id);
  };
  const button = (
    <Button small look={chosen ? "quiet" : "main"} onClick={add}>
      <Plus size={14} aria-hidden /> Begin the route with a table
    </Button>
  );
  if (!chosen)
    return (
      <Empty title="No decision tables yet" action={button}>
        A table says by rules, one a row, what comes of what: who decides up to which amount, how long they
        have, which way a request goes. It is a step of the route, <b>Apply</b>; the steps behind it read what
        it came to by its name. Where no rule holds, or two do, that is told here before any request gets
        there. Add one here, or anywhere on the{" "}
        <Link className="link" href={`/workshop/${definition.key}/route`}>
          route sheet
        </Link>
        .
      </Empty>
    );
  const step = chosen.step as Apply;
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1">
        <nav aria-label="Tables" className="contents">
          {tables.map(({ step: s, number }) => {
            const bad = d.problemsAt("step", s.id).some((p) => p.severity === "error");
            return (
              <button
                key={s.id}
                type="button"
                aria-current={s.id === step.id ? "true" : undefined}
                className={classes(
                  "min-h-7 max-w-64 truncate border-b-2",
                  s.id === step.id
                    ? "border-moss font-medium"
                    : "border-transparent text-soft hover:text-ink",
                )}
                onClick={() => pick(s.id)}
              >
                {number} {s.name}
                {bad && <span className="text-brick"> (error)</span>}
              </button>
            );
          })}
        </nav>
        {button}
      </div>
      <StepHere value={step.id}>
        <TableSheet key={step.id} step={step} number={chosen.number} scope={scopes.at(step.id)} />
      </StepHere>
    </>
  );
}
