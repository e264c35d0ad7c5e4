import { outlets, type Db } from "@/db";
import { sealOutletSecret } from "@/services";

/** Sets up the file shelf and the print room, or says where they are this time. */
export async function putDemoOutlets(db: Db): Promise<void> {
  const said = (name: string, or: string) => process.env[name] ?? or;
  await outlets.putOutlet(db, {
    kind: "shelf",
    address: `http://127.0.0.1:${said("SHELF_PORT", "3213")}/shelf`,
    account: said("SHELF_ACCOUNT", "cobble"),
    secret: sealOutletSecret(said("SHELF_PASSWORD", "quillhaven")),
  });
  await outlets.putOutlet(db, {
    kind: "print room",
    address: `http://127.0.0.1:${said("PRINT_PORT", "3214")}`,
    account: null,
    secret: sealOutletSecret(said("PRINT_TOKEN", "quillhaven")),
  });
}
