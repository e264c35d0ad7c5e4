import type { IncomingMessage, ServerResponse } from "node:http";
import { escape, page, PAGE_HEADERS, when } from "../look";
import { bodyOf } from "../bodyOf";
import { faultsForm, faultsFrom } from "../takingFaults";
import type { Job, PrintRoom } from "./printRoom";

const MOST_SHOWN = 100;
const FAULTS = {
  slow: "Slow: so many milliseconds before it answers",
  refuse: "Jobs not taken because of a jam",
  loseAfter: "Jobs printed, and the connection lost before that is said",
  twice: "Jobs that come out twice, whatever their key",
};

/** Plain pages that show what was printed. */
export async function answerPage(
  room: PrintRoom,
  req: IncomingMessage,
  res: ServerResponse,
  url: URL,
): Promise<void> {
  const [what = "", id = ""] = url.pathname.slice(1).split("/");
  const html = (title: string, body: string, status = 200) => {
    res.writeHead(status, PAGE_HEADERS);
    const links = [
      ["/", "What was printed"],
      ["/faults", "What goes wrong"],
      ["/openapi.json", "How it is spoken to"],
    ] as const;
    res.end(page({ name: "Print room", title, links, lists: [], body }));
  };
  if (what === "faults") {
    if (req.method === "POST") {
      const body = await bodyOf(req, 10_000);
      room.faults.set(faultsFrom(new URLSearchParams(body?.toString("utf8") ?? "")));
      return void res.writeHead(303, { location: "/faults" }).end();
    }
    return html("What goes wrong", faultsForm(room.faults.get(), FAULTS));
  }
  if (what === "paper") {
    const job = room.jobs.find((j) => j.id === id);
    if (!job) return html("Not there", "<p>There is no such paper.</p>", 404);
    const name = encodeURIComponent(job.name);
    res.writeHead(200, {
      "content-type": "application/pdf",
      "content-disposition": `attachment; filename*=UTF-8''${name}`,
    });
    return void res.end(room.paper(job));
  }
  if (what !== "") return html("Not there", "<p>There is nothing here.</p>", 404);
  const newest = room.jobs.toReversed().slice(0, MOST_SHOWN);
  html(
    "What was printed",
    newest.length === 0
      ? '<p class="soft">Nothing yet. What steps of processes bring here comes out at once; nothing leaves this machine.</p>'
      : `<table>${newest.map(row).join("")}</table>`,
  );
}

const row = (j: Job): string =>
  `<tr><td>${escape(j.id)}</td><td><a href="/paper/${escape(j.id)}">${escape(j.name)}</a></td><td>${j.copies} ${j.copies === 1 ? "copy" : "copies"}${j.times > 1 ? `, <strong>came out ${j.times} times</strong>` : ""}</td><td>${Math.ceil(j.bytes / 1000)} KB</td><td>${when(new Date(j.at))}</td></tr>`;
