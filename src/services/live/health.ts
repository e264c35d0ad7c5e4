import { getPool } from "@/db";

/** Whether the database answers. */
export async function healthy(): Promise<boolean> {
  try {
    await getPool().query("select 1 from setting limit 1");
    return true;
  } catch {
    return false;
  }
}
