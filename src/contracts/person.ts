import { z } from "zod";
import { emailAddress } from "./emailAddress";
import { isZone } from "./calendar";

const line = (what: string, most: number) =>
  z
    .string()
    .transform((t) => t.normalize("NFC").trim().replace(/\s+/g, " "))
    .pipe(z.string().max(most, `${what} has at most ${most} characters.`));

/** What the office says of somebody. */
export const personInput = z.strictObject({
  name: line("A name", 120).pipe(
    z.string().regex(/\p{L}/u, "A name has a letter in it, for example Una Quirke."),
  ),
  email: emailAddress,
  jobTitle: line("A job", 120),
  department: line("A department", 80),
  site: line("A site", 80),
  manager: z.string().max(60).nullable(),
  calendar: z.string().max(60).nullable(),
  zone: z
    .string()
    .max(60)
    .refine(isZone, "There is no such time zone. Name one as in the IANA list, for example Europe/Dublin."),
});
export type PersonInput = z.infer<typeof personInput>;
