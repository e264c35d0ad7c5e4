import type { RegisterShape } from "@/core/form";

const SITES = ["Tower House", "Old Ropeworks", "Harbour Store", "Lakeside Annexe"];
const shape = (s: Omit<RegisterShape, "format">): RegisterShape => ({ format: "cobble-step/register@1", ...s });

/** In the order in which they can be made: links point at registers before them. */
export const SHAPES: RegisterShape[] = [
  shape({
    key: "objects", name: "Objects", one: "object", purpose: "The collection: what it is, where it is, and in what state.",
    title: ["accession_number", "title"], key_column: "accession_number",
    columns: [
      { id: "accession_number", name: "Accession number", kind: "text", needed: true },
      { id: "title", name: "Title", kind: "text", needed: true },
      { id: "kind", name: "Kind", kind: "choice", options: ["ceramic", "textile", "painting", "print", "ship model", "instrument", "furniture", "coin", "photograph", "tool"] },
      { id: "site", name: "Site", kind: "choice", options: SITES },
      { id: "shelf", name: "Shelf", kind: "text" },
      { id: "status", name: "Status", kind: "choice", options: ["in store", "on show", "proposed for loan", "on loan", "in treatment"] },
      { id: "condition_grade", name: "Condition grade", kind: "choice", options: ["A", "B", "C", "D"] },
      { id: "insured_value", name: "Insured value", kind: "money" },
      { id: "next_check", name: "Next check", kind: "date" },
      { id: "last_handled", name: "Last handled", kind: "date" },
      { id: "last_handled_by", name: "Last handled by", kind: "person" },
    ],
  }),
  shape({
    key: "borrowers", name: "Borrowers", one: "borrower", purpose: "Institutions that borrow from the collection.", title: ["name"],
    columns: [
      { id: "name", name: "Institution", kind: "text", needed: true },
      { id: "country", name: "Country", kind: "text" },
      { id: "contact", name: "Contact", kind: "text" },
      { id: "email", name: "Email", kind: "text" },
      { id: "standing", name: "Standing", kind: "choice", options: ["good", "watched", "suspended"] },
      { id: "climate_report", name: "Climate report on file", kind: "yes or no" },
    ],
  }),
  shape({
    key: "loans", name: "Loans", one: "loan", purpose: "What is lent, to whom, from when to when.", title: ["file_number"], key_column: "file_number",
    columns: [
      { id: "file_number", name: "File number", kind: "text", needed: true },
      { id: "borrower", name: "Borrower", kind: "look-up", register: "borrowers", needed: true },
      { id: "status", name: "Status", kind: "choice", options: ["proposed", "agreed", "running", "returned", "declined"] },
      { id: "starts", name: "Starts", kind: "date" },
      { id: "ends", name: "Ends", kind: "date" },
      { id: "total_insured_value", name: "Total insured value", kind: "money" },
    ],
  }),
  shape({
    key: "loan_objects", name: "Loan objects", one: "loan object", purpose: "The objects of each loan, with their value at signing.", title: ["decision"],
    columns: [
      { id: "loan", name: "Loan", kind: "look-up", register: "loans", needed: true },
      { id: "object", name: "Object", kind: "look-up", register: "objects", needed: true },
      { id: "value_at_signing", name: "Value at signing", kind: "money" },
      { id: "decision", name: "Decision", kind: "choice", options: ["accepted", "declined"] },
    ],
  }),
  shape({
    key: "stores", name: "Stores", one: "store", purpose: "Rooms with restricted access, who keeps them, and where the key is.", title: ["name"], key_column: "name",
    columns: [
      { id: "name", name: "Room", kind: "text", needed: true },
      { id: "site", name: "Site", kind: "choice", options: SITES },
      { id: "keeper", name: "Keeper", kind: "person" },
      { id: "risk_grade", name: "Risk grade", kind: "choice", options: ["low", "medium", "high"] },
      { id: "key_status", name: "Key status", kind: "choice", options: ["in the cabinet", "out"] },
      { id: "key_holder", name: "Key holder", kind: "person" },
    ],
  }),
  shape({
    key: "role_holders", name: "Role holders", one: "role holder", purpose: "Which person holds which duty, for which site or department.", title: ["duty", "person"],
    columns: [
      { id: "duty", name: "Duty", kind: "text", needed: true },
      { id: "person", name: "Person", kind: "person", needed: true },
      { id: "site", name: "Site", kind: "choice", options: SITES },
      { id: "department", name: "Department", kind: "text" },
      { id: "source", name: "Source", kind: "text" },
    ],
  }),
  shape({
    key: "price_list", name: "Price list", one: "price", purpose: "Supplies and their unit prices.", title: ["item"], key_column: "item",
    columns: [
      { id: "item", name: "Item name", kind: "text", needed: true },
      { id: "category", name: "Category", kind: "choice", options: ["packing", "cleaning", "adhesives", "tools", "protection", "documentation"] },
      { id: "unit", name: "Unit", kind: "text" },
      { id: "price", name: "Price", kind: "money", needed: true },
    ],
  }),
];
