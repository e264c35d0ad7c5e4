import type { ReactNode } from "react";
import type { ProcessDefinition } from "@/core/route";
import { WorkshopProvider, type DraftKeeper, type DraftStart } from "@/workshop";

/** A small draft with two samples. */
export const definition: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "t",
  name: "Test",
  purpose: "",
  owners: ["una"],
  numbering: { prefix: "TEST", digits: 4 },
  title: "{Total}",
  access: {},
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  fields: [{ id: "total", name: "Total", kind: "number" }],
  route: [{ id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" }],
  samples: [
    { id: "s1", name: "Small", requester: "una", data: { total: "5" } },
    { id: "s2", name: "Large", requester: "una", data: { total: "900" } },
  ],
};
export const start: DraftStart = {
  definition,
  version: 7,
  now: Date.UTC(2026, 2, 3, 10),
  office: {
    letters: [],
    ladders: [],
    templates: [],
    mailTakers: [],
    others: [],
    procedures: [],
    data: {
      people: [{ id: "una", name: "Una", manager: null, calendar: null, active: true }],
      groups: [],
      duties: [],
      absences: [],
      mailboxes: [],
      calendars: [
        {
          key: "office",
          name: "Office",
          zone: "Europe/Dublin",
          week: { "1": [["09:00", "17:00"]], "2": [["09:00", "17:00"]], "3": [["09:00", "17:00"]] },
          holidays: [],
        },
      ],
    },
    departments: [],
    registers: {},
    sight: { columns: {}, closed: [], withdrawn: [] },
    prefixes: { KEY: "Store key" },
  },
  facts: {
    people: { una: { id: "una", name: "Una", email: "", jobTitle: "", department: "", site: "" } },
    registers: {},
    records: {},
  },
};

const NONE = { ok: false, code: "not-found", sentence: "none" } as const;
/** Where no templates are kept. */
export const NO_TEMPLATES: DraftKeeper["documents"] = {
  bring: async () => NONE,
  first: async () => NONE,
  keepForAll: async () => NONE,
  take: async () => NONE,
  versions: async () => NONE,
  pages: async () => NONE,
  fileAt: (id) => `/template/${id}`,
  docxAt: (id) => `/document/${id}`,
};

/** Keeps everything, and nobody else is about. */
const KEPT: DraftKeeper = {
  save: async (base, edits) => ({ ok: true, value: { version: base + edits.length, theirs: [] } }),
  since: async () => ({ ok: true, value: { edits: [] } }),
  ask: async () => ({ offered: [], none: null, records: {} }),
  preview: async () => ({ ok: true, value: null }),
  keepLetter: async () => ({ ok: true, value: { letter: "k", version: 1 } }),
  keepLadder: async () => ({ ok: true, value: { ladder: "k", version: 1 } }),
  mails: async () => ({ ok: true, value: [] }),
  mail: async () => ({ ok: false, code: "not-found", sentence: "none" }),
  starting: async () => ({ ok: true, value: null }),
  values: async () => ({ ok: true, value: null }),
  documents: NO_TEMPLATES,
  reload: () => undefined,
};
/** What designs a draft, around what is tried. */
export const Designing = ({
  of = definition,
  keeper = KEPT,
  office,
  children,
}: {
  of?: ProcessDefinition;
  keeper?: DraftKeeper;
  office?: Partial<DraftStart["office"]>;
  children: ReactNode;
}) => (
  <WorkshopProvider
    start={{ ...start, definition: of, office: { ...start.office, ...office } }}
    live={null}
    keeper={keeper}
    lookUp={async () => []}
  >
    {children}
  </WorkshopProvider>
);
