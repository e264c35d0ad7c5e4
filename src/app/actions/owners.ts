"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { answerProposal, callBackLinks, nameOwner, proposeOwners } from "@/services";
import { answerOf, requireActor, type Answer } from "@/web";

const key = z.string().max(60);
const owners = z.array(key).max(50);

async function done<T>(process: string, r: Answer<T>): Promise<Answer<T>> {
  if (r.ok) {
    revalidatePath(`/workshop/${process}`, "layout");
    revalidatePath("/you");
  }
  return r;
}
export const proposeOwnersAction = async (
  process: string,
  wanted: string[],
  note: string,
): Promise<Answer<{ done: boolean }>> =>
  done(
    process,
    await answerOf(
      await proposeOwners(
        await requireActor(),
        key.parse(process),
        owners.parse(wanted),
        z.string().max(2000).parse(note),
      ),
    ),
  );
export const answerProposalAction = async (
  process: string,
  proposed: string[],
  agree: boolean,
): Promise<Answer<null>> =>
  done(
    process,
    await answerOf(
      await answerProposal(
        await requireActor(),
        key.parse(process),
        owners.parse(proposed),
        z.boolean().parse(agree),
      ),
    ),
  );
export const nameOwnerAction = async (process: string, person: string): Promise<Answer<null>> =>
  done(process, await answerOf(await nameOwner(await requireActor(), key.parse(process), key.parse(person))));

/** Makes the links void by which somebody outside follows a request; see `callBackLinks`. */
export const callBackLinksAction = async (
  number: string,
  anew: boolean,
): Promise<Answer<{ void: number; sent: boolean }>> =>
  answerOf(
    await callBackLinks(await requireActor(), z.string().max(40).parse(number), z.boolean().parse(anew)),
  );
