import { z } from "zod";

/**
 * The one way in which an address is kept and compared: compatible characters made one (NFKC), all small. Comparing in
 * two places by two rules would let one address be two accounts, or two addresses one.
 */
export const emailKey = (address: string): string =>
  address.normalize("NFKC").toLowerCase().normalize("NFKC").trim();

/** An address as it is kept. */
export const emailAddress = z
  .string()
  .max(200)
  .transform(emailKey)
  .pipe(
    z
      .string()
      .regex(
        /^[^\s@<>(),;:"\\[\]]+@[^\s@<>(),;:"\\[\]]+\.[^\s@<>(),;:"\\[\]]+$/,
        "An e-mail address looks like una.quirke@quillhaven.example",
      ),
  );
