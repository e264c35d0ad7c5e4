import { processDefinition } from "@/contracts";
import type { ProcessDefinition } from "@/core/route";
import { upgraded, versionOf, type Format, type Upgrader } from "./versions";

type Json = Readonly<Record<string, unknown>>;

/** @2: starts have ids, and a Write names the line items it goes through by id, no longer by name. */
const startsAndLines: Upgrader = (old) => {
  const lines = new Map<string, string>();
  const fields = (list: unknown) => {
    for (const f of (list ?? []) as Json[]) {
      if (f["kind"] === "lines" && !lines.has(String(f["name"])))
        lines.set(String(f["name"]), String(f["id"]));
      fields(f["fields"]);
    }
  };
  fields(old["fields"]);
  const step = (s: Json): Json => ({
    ...s,
    ...(typeof s["each"] === "string" ? { each: lines.get(s["each"]) ?? s["each"] } : {}),
    ...Object.fromEntries(
      ["answers", "ways", "branches"].flatMap((held) =>
        s[held] ? [[held, (s[held] as Json[]).map((l) => ({ ...l, steps: route(l["steps"]) }))]] : [],
      ),
    ),
  });
  const route = (list: unknown): Json[] => ((list ?? []) as Json[]).map(step);
  return {
    ...old,
    format: "cobble-step/process@2",
    starts: ((old["starts"] ?? []) as Json[]).map((s, i) => ({
      id: i === 0 ? "form" : `form-${i + 1}`,
      ...s,
    })),
    route: route(old["route"]),
  };
};

export const PROCESS: Format = {
  name: "cobble-step/process",
  newest: 2,
  upgraders: [startsAndLines],
};

/** In the newest version, not yet held against its schema. @throws where it is no process of a known version. */
const upgradeProcess = (document: unknown): unknown => {
  if (typeof document !== "object" || document === null) return document;
  return upgraded(PROCESS, document as Json, versionOf(PROCESS, document as Json));
};

/** A stored definition. @throws where it is none: what is stored was checked before. */
export const readProcess = (document: unknown): ProcessDefinition =>
  processDefinition.parse(upgradeProcess(document));

/** A definition somebody sent, in the newest version where that can be; else as it came, for its schema to refuse. */
export function sentProcess(document: unknown): unknown {
  try {
    return upgradeProcess(document);
  } catch {
    return document;
  }
}
