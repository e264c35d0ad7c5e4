import { redirect } from "next/navigation";
import { requireActor } from "@/web";

export default async function Home() {
  await requireActor();
  redirect("/desk");
}
