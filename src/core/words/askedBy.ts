import { followerOf, partyName, type Party } from "../form";

/**
 * Who asked for a request, as its pages say it: "Ada Byrne, ada@byrne.example, outside the office, through Night orders".
 * @param account the name of an account by its id
 */
export function askedBy(p: Party, account: (id: string) => string): string {
  const name = partyName(p, account);
  switch (p.kind) {
    case "person":
    case "service":
      return name;
    case "process":
      return `the process ${name}${p.because === undefined ? "" : `, because ${p.because}`}`;
    case "outside": {
      const through = p.through === null || followerOf(p) !== null ? "" : `, through ${account(p.through)}`;
      const unsure = p.unsure && p.email ? ", by an address they typed" : "";
      return `${name}${p.email ? `, ${p.email}` : ""}, outside the office${through}${unsure}`;
    }
  }
}
