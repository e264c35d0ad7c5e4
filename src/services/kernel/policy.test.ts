import type { StartOf } from "@/starts/shapes";
import type { Actor } from "./actor";
import { can, type Deed } from "./policy";

const actor = (more: Partial<Actor> = {}): Actor => ({
  kind: "person",
  id: "una",
  name: "Una",
  department: "Registry",
  groups: ["duty-desk"],
  officeRights: false,
  zone: "Europe/Dublin",
  via: { kind: "session", id: "1", provedAt: 0 },
  ...more,
});
const form = (who: StartOf<"form">["who"]) => [{ id: "form", kind: "form" as const, who }];

it("nobody signed in may do nothing at all", () => {
  const deeds: Deed[] = [
    { action: "ask", starts: form({ by: "everybody" }), live: true },
    { action: "see request", requester: "", tookPart: true, owner: true },
    { action: "watch", owner: true },
    { action: "see progress", owner: true },
    { action: "design", owner: true },
    { action: "read file", addedBy: "", loose: true, shown: true },
    { action: "create process" },
    { action: "read registers" },
    { action: "see office" },
    { action: "make key", person: "", service: false },
    { action: "keep keys", person: "" },
    { action: "move clock", demo: true },
  ];
  for (const d of deeds) expect(can(null, d)).toBe(false);
});

it("what is not known is not allowed", () =>
  expect(can(actor(), { action: "burn it down" } as unknown as Deed)).toBe(false));

describe("somebody outside", () => {
  const visitor = actor({ kind: "visitor", id: "visitor.1", department: "", groups: [], officeRights: true });
  it.each<[Deed, boolean]>([
    [{ action: "ask from outside", open: true }, true],
    [{ action: "ask from outside", open: false }, false],
    [{ action: "see request", requester: "visitor.1", tookPart: false, owner: false }, true],
    [{ action: "see request", requester: "visitor.2", tookPart: false, owner: true }, false],
    [{ action: "see request", requester: null, tookPart: false, owner: true }, false],
    // They are asked at a step of it.
    [{ action: "see request", requester: "una", tookPart: true, owner: false }, true],
    [{ action: "command", answers: true }, true],
    [{ action: "command", answers: false }, false],
    [{ action: "read file", addedBy: "visitor.1", loose: true, shown: false }, true],
    [{ action: "read file", addedBy: "visitor.2", loose: true, shown: true }, false],
    [{ action: "read file", addedBy: "visitor.2", loose: false, shown: true }, true],
    [{ action: "read register", seen: true }, true],
    [{ action: "read register", seen: false }, false],
    [{ action: "ask", starts: form({ by: "everybody" }), live: true }, false],
    [{ action: "use own", person: "visitor.1" }, false],
    [{ action: "write records", may: true }, false],
    [{ action: "watch", owner: true }, false],
    [{ action: "read registers" }, false],
    [{ action: "see office" }, false],
    [{ action: "add file" }, false],
    [{ action: "close links", owner: true }, false],
    [{ action: "create process" }, false],
  ])("may %j: %p", (deed, want) => expect(can(visitor, deed)).toBe(want));
});

it.each<[Deed, Partial<Actor>, boolean]>([
  [{ action: "ask from outside", open: true }, { officeRights: true }, false],
  [{ action: "close links", owner: true }, {}, true],
  [{ action: "close links", owner: false }, { officeRights: true }, false],
  [{ action: "ask", starts: form({ by: "everybody" }), live: true }, {}, true],
  [{ action: "ask", starts: form({ by: "everybody" }), live: false }, {}, false],
  [{ action: "ask", starts: [], live: true }, { officeRights: true }, false],
  [{ action: "ask", starts: form({ by: "group", group: "duty-desk" }), live: true }, {}, true],
  [{ action: "ask", starts: form({ by: "group", group: "other" }), live: true }, {}, false],
  [{ action: "ask", starts: form({ by: "department", department: "Registry" }), live: true }, {}, true],
  [{ action: "ask", starts: form({ by: "department", department: "Finance" }), live: true }, {}, false],
  [{ action: "see request", requester: "una", tookPart: false, owner: false }, {}, true],
  [{ action: "see request", requester: "ines", tookPart: true, owner: false }, {}, true],
  [{ action: "see request", requester: "ines", tookPart: false, owner: true }, {}, true],
  [
    { action: "see request", requester: "ines", tookPart: false, owner: false },
    { officeRights: true },
    false,
  ],
  [{ action: "watch", owner: false }, { officeRights: true }, false],
  [{ action: "watch", owner: true }, {}, true],
  [{ action: "design", owner: false }, {}, false],
  [{ action: "design", owner: false }, { officeRights: true }, true],
  [{ action: "create process" }, {}, false],
  [{ action: "make key", person: "una", service: false }, {}, true],
  [{ action: "make key", person: "ines", service: false }, {}, false],
  [{ action: "make key", person: "ines", service: false }, { officeRights: true }, false],
  [{ action: "make key", person: "service.stock", service: true }, { officeRights: true }, true],
  [{ action: "make key", person: "service.stock", service: true }, {}, false],
  [{ action: "make key", person: "una", service: false }, { kind: "service" }, false],
  [{ action: "keep keys", person: "ines" }, {}, false],
  [{ action: "keep keys", person: "ines" }, { officeRights: true }, true],
  [{ action: "manage services" }, {}, false],
  [{ action: "manage services" }, { officeRights: true }, true],
  [{ action: "read file", addedBy: "una", loose: true, shown: false }, {}, true],
  [{ action: "read file", addedBy: "ines", loose: true, shown: true }, { officeRights: true }, false],
  [{ action: "read file", addedBy: "una", loose: false, shown: false }, {}, false],
  [{ action: "read file", addedBy: "ines", loose: false, shown: true }, {}, true],
  [{ action: "see sizes" }, {}, false],
  [{ action: "see sizes" }, { officeRights: true }, true],
  [{ action: "move clock", demo: false }, { officeRights: true }, false],
])("%j by %j is %p", (deed, more, want) => expect(can(actor(more), deed)).toBe(want));
