import { context, TEXT, type Scope } from "../expression";
import { domainOf } from "./domain";

const WAY = { t: "text" as const, options: ["a", "b"] };

it("what a step comes to has a domain where it is one of a few, and what a record holds has none", () => {
  const scope: Scope = {
    Handling: context({ Way: WAY, Said: TEXT, Urgent: { t: "yesno" } }),
    Loan: { t: "context", fields: { Way: WAY }, what: "loans" },
  };
  expect(domainOf("Handling.Way", scope, [])).toEqual({ type: WAY, field: null });
  expect(domainOf("Handling.Urgent", scope, [])).toMatchObject({ field: null });
  for (const name of ["Handling.Said", "Handling.None", "Loan.Way", "Nobody.Way", "Handling.Way.Deeper"])
    expect(domainOf(name, scope, [])).toBeNull();
});
