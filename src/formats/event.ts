import type { RequestEvent } from "@/core/engine";
import { upgraded, type Format, type Upgrader } from "./versions";

/** @2: what kinds of steps ask and say goes through events that name no kind. */
const byKind: Upgrader = (e) => {
  const { type, step, effect, records, people, way, name, why, opened, left, ...rest } = e;
  const common = { ...rest };
  switch (type) {
    case "way chosen":
      return { ...common, type: "step did", step, did: { kind: "choose", way, name, why } };
    case "branches opened":
      return { ...common, type: "step did", step, did: { kind: "together", opened, left } };
    case "write asked":
      return { ...common, type: "effect asked", effect };
    case "tell asked":
      return { ...common, type: "effect asked", token: null, effect };
    case "written":
      return { ...common, type: "effect done", effect, step, kind: "write", result: { records } };
    case "told":
      return { ...common, type: "effect done", effect, step: "", kind: "tell", result: { people } };
    case "write failed":
      return { ...common, type: "effect failed", effect, step };
    default:
      return e;
  }
};

export const EVENT: Format = { name: "cobble-step/event", newest: 2, upgraders: [byKind] };

/** A stored event in the newest version; `version` stands in a column of its own. */
export const readEvent = (event: Readonly<Record<string, unknown>>, version: number): RequestEvent =>
  upgraded(EVENT, event, version) as unknown as RequestEvent;
