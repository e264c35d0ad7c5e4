import { chromium } from "@playwright/test";
// node scripts/shot.mjs person out.png path [WxH] [js-steps-file]
const [person, out, path, size = "1280x800", steps] = process.argv.slice(2);
const [width, height] = size.split("x").map(Number);
const b = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--disable-background-networking"] });
const p = await b.newPage({ viewport: { width, height } });
p.on("console", (m) => m.type() === "error" && console.log("console:", m.text().slice(0, 300)));
p.on("pageerror", (e) => console.log("pageerror:", e.message.slice(0, 500)));
const base = process.env.BASE ?? "http://localhost:3333";
await p.goto(base + "/sign-in?from=" + encodeURIComponent(path));
if (person !== "-") { await p.click(`button[value="${person}"]`); await p.waitForURL((u) => !u.pathname.startsWith("/sign-in")); await p.goto(base + path); }
await p.waitForTimeout(600);
if (steps) { const f = (await import(steps)).default; await f(p); }
await p.screenshot({ path: out });
console.log(p.url());
await b.close();
