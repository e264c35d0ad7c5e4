import { EVERYBODY, type RegisterRights } from "@/core/form";

const LOANS_STAFF = ["Registry", "Collections", "Directorate"].map((department) => ({
  by: "department" as const,
  department,
}));

const COLLECTIONS = ["Collections", "Conservation", "Registry"].map((department) => ({
  by: "department" as const,
  department,
}));

/** Who looks after each register, and what of it not everybody sees. */
export const RIGHTS: Readonly<Record<string, RegisterRights>> = {
  objects: {
    ...EVERYBODY,
    keepers: ["maeve.dunlea"],
    change: COLLECTIONS,
    fill: { insured_value: LOANS_STAFF },
    open: ["accession_number", "title", "kind", "status", "condition_grade", "insured_value"],
  },
  borrowers: {
    ...EVERYBODY,
    open: ["name", "country", "climate_report"],
    keepers: ["maeve.dunlea"],
    columns: { contact: LOANS_STAFF, email: LOANS_STAFF },
    add: LOANS_STAFF,
    change: LOANS_STAFF,
  },
  loans: { ...EVERYBODY, keepers: ["maeve.dunlea"] },
  loan_objects: {
    ...EVERYBODY,
    keepers: ["maeve.dunlea"],
    change: COLLECTIONS,
    fill: { insured_value: LOANS_STAFF },
  },
  treatments: {
    ...EVERYBODY,
    keepers: ["sorcha.lind"],
    add: [{ by: "department", department: "Conservation" }],
    change: [{ by: "department", department: "Conservation" }],
  },
  care_notes: {
    ...EVERYBODY,
    keepers: ["sorcha.lind"],
    add: COLLECTIONS,
    change: COLLECTIONS,
    remove: [{ by: "department", department: "Conservation" }],
  },
  stores: { ...EVERYBODY, keepers: ["tobias.marrin"] },
  role_holders: { ...EVERYBODY, keepers: ["tobias.marrin"] },
  price_list: { ...EVERYBODY, keepers: ["tobias.marrin"] },
  tickets: { ...EVERYBODY, keepers: ["tobias.marrin"] },
};
