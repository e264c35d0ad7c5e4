/**
 * The one way in which an address is kept and compared: compatible characters made one (NFKC), all small. Comparing in
 * two places by two rules would let one address be two accounts, or two addresses one.
 */
export const emailKey = (address: string): string =>
  address.normalize("NFKC").toLowerCase().normalize("NFKC").trim();
