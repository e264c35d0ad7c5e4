import { OUTLET_SAYS, type Outlet } from "@/core/route";
import { getPool, inTransaction, outlets } from "@/db";
import { tryPrintRoom, tryShelf } from "@/outside/outlets";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { outsideAddress } from "../kernel/outsideAddress";
import { noteEntry } from "../log/noteEntry";
import { keeping } from "../office/keepPeople";
import { outletServer, sealOutletSecret } from "./outletServer";

/** An outlet as it is set up, without what it is entered with. */
export interface OutletShown {
  kind: Outlet;
  address: string;
  account: string | null;
}
export interface OutletInput extends OutletShown {
  /** A password with an account, else a token; null leaves the one that is kept. */
  secret: string | null;
}

const wrong = (path: string, message: string) => new Failed({ code: "invalid", data: { path, message } });
const EXAMPLES: Readonly<Record<Outlet, string>> = {
  shelf: "https://files.example.org/shelf",
  "print room": "https://print.example.org",
};

/** The outlets there are, for those with the rights of the office. */
export const outletsShown = defineUseCase(["keep people"], async (c): Promise<OutletShown[]> => {
  c.must(
    { action: "keep people" },
    { code: "not-allowed", data: { action: "see the shelf and the print room" } },
  );
  const rows = await outlets.allOutlets(getPool());
  return rows.map(({ kind, address, account }) => ({ kind, address, account }));
});

/** Sets an outlet up, or changes it. */
export const putOutlet = defineUseCase(["keep people"], (c, input: OutletInput): Promise<null> =>
  inTransaction(async (db) => {
    await keeping(c, db, `change the ${OUTLET_SAYS[input.kind]}`);
    const address = outsideAddress(input.address, EXAMPLES[input.kind]);
    const account = input.account?.trim() || null;
    if (account?.includes(":")) throw wrong("Account", "An account has no colon in it.");
    const old = await outlets.outlet(db, input.kind);
    // Whoever changes where it is, or as whom it is entered, could otherwise have what is kept sent elsewhere.
    if (input.secret === null && (old?.address !== address || old.account !== account))
      throw wrong(
        "Secret",
        old
          ? "It is another address or account: enter what it is entered with anew."
          : "It needs the password or token it is entered with.",
      );
    if (input.secret?.trim() === "")
      throw wrong("Secret", "It needs the password or token it is entered with.");
    const secret = input.secret === null ? old!.secret : sealOutletSecret(input.secret.trim());
    await outlets.putOutlet(db, { kind: input.kind, address, account, secret });
    await noteEntry(c.actor, { what: "outlet changed", data: { outlet: OUTLET_SAYS[input.kind] } }, db);
    return null;
  }),
);

/** Takes an outlet away. What is to go there stands on Progress then. */
export const removeOutlet = defineUseCase(["keep people"], (c, kind: Outlet): Promise<null> =>
  inTransaction(async (db) => {
    await keeping(c, db, `remove the ${OUTLET_SAYS[kind]}`);
    if (!(await outlets.deleteOutlet(db, kind)))
      throw new Failed({ code: "not-found", data: { what: OUTLET_SAYS[kind], id: "" } });
    await noteEntry(c.actor, { what: "outlet changed", data: { outlet: OUTLET_SAYS[kind] } }, db);
    return null;
  }),
);

/** Whether it lets Cobble Step in. @returns why not; null where it does */
export const tryOutlet = defineUseCase(
  ["keep people"],
  async (c, kind: Outlet): Promise<{ why: string | null }> => {
    c.must(
      { action: "keep people" },
      { code: "not-allowed", data: { action: `try the ${OUTLET_SAYS[kind]}` } },
    );
    const server = await outletServer(getPool(), kind);
    if (typeof server === "string") return { why: `${server.charAt(0).toUpperCase()}${server.slice(1)}` };
    return { why: await (kind === "shelf" ? tryShelf : tryPrintRoom)(server) };
  },
);
