import { personParty } from "../form";
import { TooHeavy } from "../expression";
import { KINDS } from "@/kinds";
import { compileRelease, decide, NEW_REQUEST } from ".";
import { officeFacts } from "./testOffice";
import { decideBy, definitionOf, fin, T0, YES_NO } from "./testRequest";

const fields = [
  { id: "total", name: "Total", kind: "money" as const },
  { id: "twice", name: "Twice", kind: "money" as const, worked: "Total * 2" },
];
const route = [decideBy("d", { by: "person", person: "brendan" }, YES_NO("d")), fin("end", "approved")];
const release = compileRelease(definitionOf(route, { fields }), {}, KINDS);
const start = {
  type: "start",
  actor: "una",
  requester: personParty("una"),
  number: "TEST-0001",
  data: { total: "5" },
} as const;

it("a command is given up where the caller's time is over, and only there", () => {
  const facts = officeFacts(T0);
  const within = (left: number) => {
    let asked = 0;
    const outOfTime = () => ++asked > left;
    return () => decide(release, NEW_REQUEST, start, { ...facts, outOfTime });
  };
  expect(within(0)).toThrow(TooHeavy);
  // The clock decides nothing but that: what comes out is the same with it as without.
  expect(within(10_000)()).toEqual(decide(release, NEW_REQUEST, start, facts));
});
