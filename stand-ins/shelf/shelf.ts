import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import type { IncomingMessage, ServerResponse } from "node:http";
import { dirname, join } from "node:path";
import { escape } from "../look";
import { listening, type Running } from "../listening";
import { bodyOf } from "../bodyOf";
import { KeptFaults } from "../keptFaults";
import { FAULTS, type Faults } from "../takingFaults";
import { answerPage } from "./page";

export interface Shelf {
  /** The folder all lies in. */
  root: string;
  faults: KeptFaults<Faults>;
}
const MOST_BYTES = 100_000_000;
/** Where WebDAV begins. */
const DAV = "/shelf";

/** Starts the file shelf of the made-up world, on loopback: folders by WebDAV (RFC 4918, class 1), and pages to look into them. */
export async function startShelf(o: {
  folder: string;
  port: number;
  account: string;
  password: string;
}): Promise<Shelf & Running> {
  const root = join(o.folder, "files");
  mkdirSync(root, { recursive: true });
  const shelf: Shelf = { root, faults: new KeptFaults(join(o.folder, "faults.json"), FAULTS) };
  const credentials = `Basic ${Buffer.from(`${o.account}:${o.password}`).toString("base64")}`;

  async function answerDav(req: IncomingMessage, res: ServerResponse, url: URL): Promise<void> {
    const say = (status: number, words = "", headers: Record<string, string> = {}) => {
      res.writeHead(status, { "content-type": "text/plain; charset=utf-8", ...headers });
      res.end(words);
    };
    if (req.headers.authorization !== credentials)
      return say(401, "Who are you?", { "www-authenticate": 'Basic realm="File shelf"' });
    const t = shelf.faults.get();
    if (t.slow > 0) await new Promise((r) => setTimeout(r, t.slow));
    const path = placeOf(root, url.pathname.slice(DAV.length));
    if (path === null) return say(400, "That is no place on the shelf.");
    const there = existsSync(path) ? statSync(path) : null;
    switch (req.method ?? "") {
      case "OPTIONS":
        return say(200, "", { dav: "1", allow: "OPTIONS, PROPFIND, MKCOL, PUT, GET, HEAD, DELETE" });
      case "PROPFIND":
        if (!there) return say(404, "There is nothing.");
        return say(207, listing(url.pathname, path, req.headers["depth"] !== "0"), {
          "content-type": "application/xml; charset=utf-8",
        });
      case "MKCOL":
        if (there) return say(405, "It is there already.");
        if (!existsSync(dirname(path))) return say(409, "The folder it would stand in is not there.");
        mkdirSync(path);
        return say(201);
      case "PUT": {
        const body = await bodyOf(req, MOST_BYTES);
        if (Math.random() < t.refuse) return say(503, "The shelf is being tidied.");
        if (!body) return say(413, "It is too large.");
        if (!existsSync(dirname(path))) return say(409, "The folder it would stand in is not there.");
        const now = existsSync(path) ? statSync(path) : null;
        if (now?.isDirectory()) return say(405, "It is a folder.");
        if (now && req.headers["if-none-match"] === "*") return say(412, "There is one of that name.");
        writeFileSync(path, body);
        // What lies there stays there; nobody hears of it.
        if (Math.random() < t.loseAfter) return void req.socket.destroy();
        return say(now ? 204 : 201);
      }
      case "GET":
      case "HEAD":
        if (!there?.isFile()) return say(404, "There is no such file.");
        res.writeHead(200, { "content-type": "application/octet-stream", "content-length": there.size });
        return void res.end(req.method === "HEAD" ? undefined : readFileSync(path));
      case "DELETE":
        if (!there || path === root) return say(404, "There is nothing.");
        rmSync(path, { recursive: true });
        return say(204);
      default:
        return say(405, "That cannot be done here.");
    }
  }

  const running = await listening(o.port, (req, res, url) =>
    url.pathname === DAV || url.pathname.startsWith(`${DAV}/`)
      ? answerDav(req, res, url)
      : answerPage(shelf, req, res, url),
  );
  return { ...shelf, ...running };
}

/** Where a path leads on the shelf; null for one that would lead out of it. */
export function placeOf(root: string, path: string): string | null {
  try {
    const parts = path
      .split("/")
      .filter((p) => p !== "")
      .map(decodeURIComponent);
    return parts.some((p) => p === ".." || p === "." || /[/\\\0]/.test(p)) ? null : join(root, ...parts);
  } catch {
    return null;
  }
}

function listing(address: string, path: string, deep: boolean): string {
  const one = (href: string, at: string) => {
    const s = statSync(at);
    const kind = s.isDirectory()
      ? "<D:resourcetype><D:collection/></D:resourcetype>"
      : `<D:resourcetype/><D:getcontentlength>${s.size}</D:getcontentlength>`;
    return `<D:response><D:href>${escape(href)}</D:href><D:propstat><D:prop>${kind}</D:prop><D:status>HTTP/1.1 200 OK</D:status></D:propstat></D:response>`;
  };
  const inside =
    deep && statSync(path).isDirectory()
      ? readdirSync(path).map((n) =>
          one(`${address.replace(/\/$/, "")}/${encodeURIComponent(n)}`, join(path, n)),
        )
      : [];
  return `<?xml version="1.0" encoding="utf-8"?><D:multistatus xmlns:D="DAV:">${one(address, path)}${inside.join("")}</D:multistatus>`;
}
