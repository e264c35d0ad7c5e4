import { settings, type Db } from "@/db";

/**
 * Application time. In the demo the clock can be moved; everything that asks for "now" asks here, and
 * only what guards sign-in runs on the machine's own clock.
 */
export async function clockOffset(db: Db): Promise<number> {
  return Number((await settings.readSetting<number>(db, "clock_offset")) ?? 0);
}
export const nowMs = async (db: Db): Promise<number> => Date.now() + (await clockOffset(db));
