import type { RequestEvent } from "@/core/engine";
import { personParty } from "@/core/form";
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

/** @3: whoever asked is a party. That some of those before were services is known by their accounts. */
const byParty: Upgrader = (e) => {
  const { requester, event } = e;
  if (typeof requester === "string") return { ...e, requester: personParty(requester) };
  return e["type"] === "in call" ? { ...e, event: byParty(event as typeof e) } : e;
};

export const EVENT: Format = { name: "cobble-step/event", newest: 3, upgraders: [byKind, byParty] };

/** A stored event in the newest version; `version` stands in a column of its own. */
export const readEvent = (event: Readonly<Record<string, unknown>>, version: number): RequestEvent =>
  upgraded(EVENT, event, version) as unknown as RequestEvent;
