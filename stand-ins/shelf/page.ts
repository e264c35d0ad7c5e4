import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import type { IncomingMessage, ServerResponse } from "node:http";
import { join } from "node:path";
import { escape, page, PAGE_HEADERS, when } from "../look";
import { bodyOf } from "../bodyOf";
import { faultsForm, faultsFrom } from "../takingFaults";
import { placeOf, type Shelf } from "./shelf";

const FAULTS = {
  slow: "Slow: so many milliseconds before it answers",
  refuse: "Files not taken for now",
  loseAfter: "Files taken, and the connection lost before that is said",
};

/** Plain pages to look into the folders. */
export async function answerPage(
  shelf: Shelf,
  req: IncomingMessage,
  res: ServerResponse,
  url: URL,
): Promise<void> {
  const html = (title: string, body: string, status = 200) => {
    res.writeHead(status, PAGE_HEADERS);
    const links = [
      ["/", "All folders"],
      ["/faults", "What goes wrong"],
    ] as const;
    res.end(page({ name: "File shelf", title, links, lists: [], body }));
  };
  if (url.pathname === "/faults") {
    if (req.method === "POST") {
      const body = await bodyOf(req, 10_000);
      shelf.faults.set(faultsFrom(new URLSearchParams(body?.toString("utf8") ?? "")));
      return void res.writeHead(303, { location: "/faults" }).end();
    }
    return html("What goes wrong", faultsForm(shelf.faults.get(), FAULTS));
  }
  const at = url.pathname.replace(/^\/look/, "");
  const path = placeOf(shelf.root, at);
  if (path === null || !existsSync(path)) return html("Not there", "<p>There is nothing here.</p>", 404);
  if (statSync(path).isFile()) {
    res.writeHead(200, {
      "content-type": "application/octet-stream",
      "content-disposition": `attachment; filename*=UTF-8''${at.split("/").at(-1) ?? ""}`,
    });
    return void res.end(readFileSync(path));
  }
  const names = readdirSync(path).sort();
  const base = `/look${at.replace(/\/$/, "")}`;
  html(
    at === "/" || at === "" ? "All folders" : decodeURIComponent(at.split("/").filter(Boolean).join(" / ")),
    names.length === 0
      ? '<p class="soft">Nothing lies here yet. What steps of processes bring here is kept; nothing leaves this machine.</p>'
      : `<table>${names.map((n) => row(base, n, join(path, n))).join("")}</table>`,
  );
}

function row(base: string, name: string, path: string): string {
  const s = statSync(path);
  const size = s.isDirectory() ? "folder" : `${Math.ceil(s.size / 1000)} KB`;
  return `<tr><td><a href="${base}/${encodeURIComponent(name)}">${escape(name)}</a></td><td>${size}</td><td>${when(s.mtime)}</td></tr>`;
}
