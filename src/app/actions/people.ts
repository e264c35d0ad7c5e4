"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import type { WorkingCalendar } from "@/core/calendar";
import {
  addAway,
  addDuty,
  addPerson,
  bringPeople,
  changePerson,
  closePerson,
  erasePerson,
  holidayPlaces,
  makePasswordLink,
  openPerson,
  previewPeople,
  putCalendar,
  putGroup,
  removeAway,
  removeCalendar,
  removeDuty,
  removeGroup,
  renamePlace,
  setRights,
  type Erased,
  type ImportPreview,
  type Outcome,
  type PlaceKind,
  type PlacesOfHolidays,
} from "@/services";
import { answerOf, requireActor, type Answer } from "@/web";

/** The versions of all parts of the directory. */
const versions = z.string().max(2000);
const id = z.string().max(80);
const text = z.string().max(400);
const sheet = z.string().max(2_100_000);

async function done<T>(outcome: Outcome<T>): Promise<Answer<T>> {
  const r = await answerOf(outcome);
  if (r.ok) revalidatePath("/office", "layout");
  return r;
}

export const addPersonAction = async (said: unknown): Promise<Answer<{ id: string }>> =>
  done(await addPerson(await requireActor(), said));
export const changePersonAction = async (
  person: string,
  said: unknown,
): Promise<Answer<{ changed: string[] }>> =>
  done(await changePerson(await requireActor(), id.parse(person), said));
export const setRightsAction = async (person: string, rights: boolean): Promise<Answer<null>> =>
  done(await setRights(await requireActor(), id.parse(person), z.boolean().parse(rights)));
export const closePersonAction = async (
  person: string,
  to: string | null,
): Promise<Answer<{ tasks: number; waiting: boolean }>> =>
  done(await closePerson(await requireActor(), id.parse(person), id.nullable().parse(to)));
export const openPersonAction = async (person: string): Promise<Answer<null>> =>
  done(await openPerson(await requireActor(), id.parse(person)));
export const erasePersonAction = async (person: string): Promise<Answer<Erased>> =>
  done(await erasePerson(await requireActor(), id.parse(person)));
export const passwordLinkAction = async (person: string): Promise<Answer<{ token: string; hours: number }>> =>
  answerOf(await makePasswordLink(await requireActor(), id.parse(person)));

export const addDutyAction = async (
  person: string,
  duty: string,
  place: { site: string | null; department: string | null },
): Promise<Answer<null>> =>
  done(
    await addDuty(
      await requireActor(),
      id.parse(person),
      text.parse(duty),
      z.object({ site: text.nullable(), department: text.nullable() }).parse(place),
    ),
  );
export const removeDutyAction = async (record: string): Promise<Answer<null>> =>
  done(await removeDuty(await requireActor(), id.parse(record)));

export const addAwayAction = async (
  person: string,
  first: string,
  last: string,
  cover: string | null,
  covers: { duty: string; cover: string }[],
  stays: boolean,
): Promise<Answer<null>> =>
  done(
    await addAway(
      await requireActor(),
      id.parse(person),
      id.parse(first),
      id.parse(last),
      id.nullable().parse(cover),
      z
        .array(z.object({ duty: z.string().max(500), cover: id }))
        .max(100)
        .parse(covers),
      z.boolean().parse(stays),
    ),
  );
export const removeAwayAction = async (person: string, absence: string): Promise<Answer<null>> =>
  done(await removeAway(await requireActor(), id.parse(person), id.parse(absence)));

export const putGroupAction = async (
  key: string | null,
  name: string,
  members: string[],
): Promise<Answer<{ key: string }>> =>
  done(
    await putGroup(
      await requireActor(),
      id.nullable().parse(key),
      text.parse(name),
      z.array(id).max(5001).parse(members),
    ),
  );
export const removeGroupAction = async (key: string): Promise<Answer<null>> =>
  done(await removeGroup(await requireActor(), id.parse(key)));

export const renamePlaceAction = async (
  kind: PlaceKind,
  from: string,
  to: string,
): Promise<Answer<{ people: number; named: string[] }>> =>
  done(
    await renamePlace(
      await requireActor(),
      z.enum(["department", "site"]).parse(kind),
      text.parse(from),
      text.parse(to),
    ),
  );

const calendar = z.object({
  name: text,
  zone: text,
  week: z.record(z.string(), z.array(z.tuple([z.string().max(10), z.string().max(10)])).max(20)),
  holidays: z.array(z.string().max(20)).max(4000),
  publicHolidays: z
    .object({
      country: z.string().max(10),
      region: z.string().max(20).optional(),
      works: z.array(z.string().max(200)).max(100),
    })
    .optional(),
});
export const holidayPlacesAction = async (
  country: string | null,
  region: string | null,
): Promise<Answer<PlacesOfHolidays>> =>
  answerOf(
    await holidayPlaces(
      await requireActor(),
      z.string().max(10).nullable().parse(country),
      z.string().max(20).nullable().parse(region),
    ),
  );
export const putCalendarAction = async (
  key: string | null,
  said: Omit<WorkingCalendar, "key">,
): Promise<Answer<{ key: string }>> =>
  done(await putCalendar(await requireActor(), id.nullable().parse(key), calendar.parse(said)));
export const removeCalendarAction = async (key: string): Promise<Answer<null>> =>
  done(await removeCalendar(await requireActor(), id.parse(key)));

export const previewPeopleAction = async (csv: string): Promise<Answer<ImportPreview>> =>
  answerOf(await previewPeople(await requireActor(), sheet.parse(csv)));
export const bringPeopleAction = async (
  csv: string,
  version: string,
): Promise<Answer<{ added: number; changed: number }>> =>
  done(await bringPeople(await requireActor(), sheet.parse(csv), versions.parse(version)));
