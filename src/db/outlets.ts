import type { Outlet } from "@/core/route";
import type { Db } from "./pool";

export interface OutletRow {
  kind: Outlet;
  address: string;
  /** Null where it is entered with a token alone. */
  account: string | null;
  /** Sealed. */
  secret: Buffer;
}

export const allOutlets = async (db: Db): Promise<OutletRow[]> =>
  (await db.query("select kind, address, account, secret from outlet order by kind")).rows;

export const outletKinds = async (db: Db): Promise<Outlet[]> =>
  (await db.query("select kind from outlet order by kind")).rows.map((r) => r.kind);

export const outlet = async (db: Db, kind: Outlet): Promise<OutletRow | null> =>
  (await db.query("select kind, address, account, secret from outlet where kind = $1", [kind])).rows[0] ??
  null;

export const putOutlet = (db: Db, o: OutletRow) =>
  db.query(
    `
      insert into outlet (kind, address, account, secret) values ($1, $2, $3, $4)
      on conflict (kind) do update
      set address = excluded.address, account = excluded.account, secret = excluded.secret
    `,
    [o.kind, o.address, o.account, o.secret],
  );

export const deleteOutlet = async (db: Db, kind: Outlet): Promise<boolean> =>
  ((await db.query("delete from outlet where kind = $1", [kind])).rowCount ?? 0) > 0;
