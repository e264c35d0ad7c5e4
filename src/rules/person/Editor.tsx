"use client";
import { Picker } from "@/forms";
import { useDraft } from "@/workshop/parts";
import { Button } from "@/ui";
import type { RuleEditorProps } from "../editor";
import { MOST_NAMED, type RuleParts } from "../shapes";

/** The rule that means these people; the first may be nobody yet. */
function personRule([person = "", ...others]: readonly string[]): RuleParts["person"] {
  return { by: "person", person, ...(others.length > 0 ? { others } : {}) };
}

export function Editor({ rule, onChange, id }: RuleEditorProps<"person">) {
  const { people } = useDraft().office.data;
  const named = [rule.person, ...(rule.others ?? [])];
  const put = (ids: readonly string[]) => onChange(personRule(ids));
  return (
    <div className="grid gap-1">
      {named.map((person, i) => (
        <div key={i} className="grid grid-cols-[1fr_auto] items-center gap-1">
          <Picker
            id={`${id}-person${i > 0 ? `-${i + 1}` : ""}`}
            label={i > 0 ? `Person ${i + 1}` : "Person"}
            value={person || null}
            shown={people.find((p) => p.id === person)?.name ?? person}
            onPick={(o) => put(named.map((x, k) => (k === i ? (o?.id ?? "") : x)))}
            options={(s) =>
              people
                .filter((p) => p.active && p.name.toLowerCase().includes(s.trim().toLowerCase()))
                .slice(0, 20)
                .map((p) => ({ id: p.id, title: p.name }))
            }
          />
          {i > 0 && (
            <Button
              small
              look="quiet"
              aria-label={`Remove person ${i + 1}`}
              onClick={() => put(named.filter((_, k) => k !== i))}
            >
              Remove
            </Button>
          )}
        </div>
      ))}
      {named.length < MOST_NAMED && rule.person !== "" && (
        <div>
          <Button small onClick={() => put([...named, ""])}>
            And somebody else
          </Button>
        </div>
      )}
    </div>
  );
}
