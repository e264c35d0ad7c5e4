import { redirect } from "next/navigation";

export default async function ProcessPage({ params }: { params: Promise<{ process: string }> }) {
  redirect(`/workshop/${(await params).process}/route`);
}
