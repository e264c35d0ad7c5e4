import type { Outlet } from "@/core/route";
import { OUTLET_SAYS } from "@/core/route";
import { outlets, type Db } from "@/db";
import type { OutletServer } from "@/outside/outlets";
import { seal, unseal } from "../kernel/seal";

const SECRET = "outlet secret";

/** What an outlet is entered with, as it is kept. */
export const sealOutletSecret = (secret: string): Buffer => seal(SECRET, secret);

/** An outlet and how it is spoken to; a sentence where that cannot be told. */
export async function outletServer(db: Db, kind: Outlet): Promise<OutletServer | string> {
  const row = await outlets.outlet(db, kind);
  if (!row) return `there is no ${OUTLET_SAYS[kind]} in Office any more. Set it up there, and retry.`;
  const secret = unseal(SECRET, row.secret);
  if (secret === null)
    return `what the ${OUTLET_SAYS[kind]} is entered with was sealed with another SECRET_KEY: enter it anew in Office › Shelf and printing, and retry.`;
  return { address: row.address, account: row.account, secret };
}
