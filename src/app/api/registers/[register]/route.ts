import { exportRecords, failureStatus, sentenceOf, type ExportAs } from "@/services";
import { currentActor, fileHeaders } from "@/web";
import { listView } from "../../../(inside)/registers/[register]/listView";

export const dynamic = "force-dynamic";

function exportedAs(q: URLSearchParams): ExportAs {
  const format = q.get("format");
  if (format === "labels") {
    const of = (key: string) => Number(q.get(key) ?? Number.NaN);
    return { across: of("across"), down: of("down"), skip: of("skip"), margin: of("margin") };
  }
  return format === "xlsx" || format === "pdf" ? format : "csv";
}

/**
 * A view of a register as a file: the list's own address, and `?format=csv`, `xlsx` or `pdf`, or `labels` with how its
 * sheets are parted.
 */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ register: string }> },
): Promise<Response> {
  const actor = await currentActor();
  if (!actor) return new Response("You are signed out. Sign in, then save the list again.", { status: 401 });
  const q = new URL(request.url).searchParams;
  const { where, columns, search, filters, sort } = listView(q);
  const made = await exportRecords(
    actor,
    (await params).register,
    { search, filters, sort },
    where,
    columns,
    exportedAs(q),
  );
  if (!made.ok) return new Response(await sentenceOf(made.failure), { status: failureStatus(made.failure) });
  const { name, type, bytes } = made.value;
  return new Response(new Uint8Array(bytes), { headers: fileHeaders({ name, type, size: bytes.length }) });
}
