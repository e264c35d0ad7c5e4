import { createHash } from "node:crypto";
import type { IncomingMessage, ServerResponse } from "node:http";
import type { Health } from "@/services";

/** Seconds after which it is worth trying again. */
const AGAIN = 5;

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[c]!);

/** Asks until there is something to show. A page that reloads itself would take a reader back to its top each time. */
const LOOK = `setInterval(()=>fetch(location.href,{method:"HEAD"}).then(r=>r.status===503||location.reload(),()=>0),${AGAIN}000)`;
const LOOK_HASH = createHash("sha256").update(LOOK).digest("base64");

const sayOf = (why: Extract<Health, { ok: false }>["why"]): string =>
  why === "unreachable"
    ? "Cobble Step cannot reach its database just now, so there is nothing to show."
    : "Too much is going on at this moment, so nothing can be shown.";

/** A page that needs nothing of ours but this. */
const page = (sentence: string): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Cobble Step: not just now</title>
<style>
:root { color-scheme: light dark; }
body { font: 16px/1.5 Georgia, serif; max-width: 34rem; margin: 18vh auto 0; padding: 0 1.5rem; background: #f0ebe0; color: #2b2119; }
h1 { font-size: 1.6rem; }
a { color: inherit; }
@media (prefers-color-scheme: dark) { body { background: #23211e; color: #e8e2d6; } }
</style>
</head>
<body>
<main>
<h1>Not just now</h1>
<p role="status">${escaped(sentence)}</p>
<p>This page looks again every ${AGAIN} seconds. What you had typed is kept. <a href="">Look again now</a></p>
</main>
<script>${LOOK}</script>
</body>
</html>
`;

/** Answers a call for a page while the database cannot be reached: 503 with a sentence, not an error of ours. */
export function answerOutage(
  request: IncomingMessage,
  response: ServerResponse,
  health: Extract<Health, { ok: false }>,
): void {
  const wantsPage = (request.headers.accept ?? "").includes("text/html");
  const body = wantsPage ? page(sayOf(health.why)) : JSON.stringify(health);
  response.writeHead(503, {
    "content-type": wantsPage ? "text/html; charset=utf-8" : "application/json; charset=utf-8",
    "content-length": Buffer.byteLength(body),
    "retry-after": String(AGAIN),
    "cache-control": "no-store",
    "content-security-policy": `default-src 'none'; style-src 'unsafe-inline'; connect-src 'self'; script-src 'sha256-${LOOK_HASH}'`,
    "x-content-type-options": "nosniff",
  });
  response.end(request.method === "HEAD" ? undefined : body);
  // What was sent along is not read.
  request.resume();
}
