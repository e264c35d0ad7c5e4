import { KINDS } from "@/kinds";
import { officeFacts } from "../engine/testOffice";
import type { Field, MailFacts } from "../form";
import { filledByMail, mailStartProgram, takesMail } from ".";

const facts = officeFacts(Date.UTC(2026, 2, 3, 10));
const MAIL: MailFacts = {
  sender: "ada@x.example",
  senderName: "",
  to: ["offers@quillhaven.example"],
  subject: "Offer",
  text: "Two prints.",
  files: ["gone"],
};
const FIELDS: Field[] = [
  { id: "matter", name: "Matter", kind: "text" },
  { id: "count", name: "Count", kind: "number" },
  { id: "rows", name: "Rows", kind: "lines", fields: [{ id: "what", name: "What", kind: "text" }] },
];
const start = (when: string | null, values: { field: string; value: string }[] = []) =>
  mailStartProgram({ when, strangers: "take", refusal: "", values });
const takes = (when: string | null) => takesMail(start(when), MAIL, facts);
const fills = (field: string, value: string) =>
  filledByMail(start(null, [{ field, value }]), MAIL, FIELDS, KINDS.fields, facts);

it("takes what its condition holds of; over something empty it does not hold, and what cannot be told is no no", () => {
  expect(takes(null)).toBe(true);
  expect(takes('Mail.subject = "Offer"')).toBe(true);
  expect(takes('Mail.subject = "Bill"')).toBe(false);
  expect(takes('contains(Mail.sender name, "Ada")')).toBe(false);
  expect(takes("1 / 0 > 1")).toMatchObject({ why: expect.any(String) });
  expect(takes("Mail.subject =")).toMatchObject({ why: "A formula has a mistake." });
});

it("fills in fields as they keep it, and lines by the names of their columns; else it says why not", () => {
  expect(fills("matter", 'Mail.subject + ": " + Mail.text')).toEqual({
    data: { matter: "Offer: Two prints." },
  });
  expect(fills("rows", "for t in Mail.to return {What: t}")).toEqual({
    data: { rows: [{ "#": "1", what: "offers@quillhaven.example" }] },
  });
  // A file that cannot be had is none of those that came.
  expect(fills("count", "count(Mail.attachments)")).toEqual({ data: { count: "0" } });
  expect(fills("count", "Mail.subject")).toMatchObject({ why: expect.stringContaining("Count") });
  expect(fills("rows", "Mail.to")).toMatchObject({ why: expect.any(String) });
  expect(fills("nowhere", "Mail.subject")).toMatchObject({ why: expect.any(String) });
  expect(fills("count", "1 / 0")).toMatchObject({ why: expect.stringContaining("“Count”") });
});
