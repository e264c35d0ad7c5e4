import { splitCall } from "./callIds";
import type { Command, Refusal } from "./commands";

interface Inside {
  call: string;
  /** The command as it is told there. */
  command: Command;
  /** Whether it may come when there is no such procedure any more, and means nothing then. */
  late: boolean;
  /** What is said to a person who comes late. */
  refusal: Refusal;
}

/** What a command about something in a procedure is there; null where it is about the request itself. */
export function commandInside(c: Command): Inside | null {
  switch (c.type) {
    case "answer":
    case "take":
    case "put back":
    case "take back":
    case "hand over":
    case "ask":
    case "reassign":
    case "remind":
    case "change limit": {
      const into = splitCall(c.task);
      if (!into) return null;
      const refusal: Refusal = { code: "unknown-task", data: { task: c.task } };
      return { call: into.call, command: { ...c, task: into.id }, late: false, refusal };
    }
    case "retry":
    case "name":
    case "skip": {
      const into = splitCall(c.token);
      if (!into) return null;
      const refusal: Refusal = { code: "not-stuck", data: { token: c.token } };
      return { call: into.call, command: { ...c, token: into.id }, late: false, refusal };
    }
    case "time reached": {
      const into = splitCall(c.timer);
      return into && late(into.call, { ...c, timer: into.id });
    }
    case "effect done": {
      const into = splitCall(c.effect.id);
      return into && late(into.call, { ...c, effect: { ...c.effect, id: into.id } });
    }
    case "replied":
    case "not delivered": {
      const into = splitCall(c.effect.id);
      return into && late(into.call, { ...c, effect: { ...c.effect, id: into.id } });
    }
    case "effect failed": {
      const into = splitCall(c.effect);
      return into && late(into.call, { ...c, effect: into.id });
    }
    case "start":
    case "withdraw":
    case "cancel":
    case "call off":
    case "ask others":
    case "look":
    case "remove files":
    case "go on":
      return null;
  }
}

const late = (call: string, command: Command): Inside => ({
  call,
  command,
  late: true,
  refusal: { code: "ended", data: { status: "finished" } },
});
