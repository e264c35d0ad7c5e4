/** Where documents are brought, each set up once in Office: a folder of folders, or whoever prints. */
export const OUTLETS = ["shelf", "print room"] as const;
export type Outlet = (typeof OUTLETS)[number];
/** What it is called in a sentence. */
export const OUTLET_SAYS: Readonly<Record<Outlet, string>> = {
  shelf: "file shelf",
  "print room": "print room",
};
/** Copies of one document. */
export const MOST_COPIES = 100;
