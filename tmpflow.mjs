import { chromium } from "@playwright/test";
import sharp from "sharp";
import { readFileSync } from "node:fs";
const b = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox","--disable-gpu"] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
p.on("console", m => ["error","warning"].includes(m.type()) && console.log("console", m.text().slice(0,300)));
p.on("pageerror", e => console.log("pageerror", e.message.slice(0,300)));
await p.goto("http://localhost:3210/sign-in");
await p.locator('button[value="tomas.wexley"]').click();
await p.waitForURL(u => !u.pathname.startsWith("/sign-in"));
await p.goto("http://localhost:3210/ask/acquisition-offers");
await p.getByLabel("Offered by").fill("A bell founder of the north coast");
const row = p.locator('[data-field="list"]');
const img = await sharp({create:{width:1200,height:900,channels:3,background:"#6b4a2f"}}).jpeg().toBuffer();
const big = await sharp({create:{width:5000,height:4000,channels:3,background:"#2f4a6b",noise:{type:"gaussian",mean:128,sigma:30}}}).jpeg({quality:90}).toBuffer();
console.log("big", big.length);
const { pdf } = await import("./tmppdf.mjs");
await row.locator("input[type=file]").setInputFiles([
 {name:"Bell from the north.jpg",mimeType:"image/jpeg",buffer:img},
 {name:"A very long name of a photo that somebody took in the yard behind the foundry on a wet day in November.jpg",mimeType:"image/jpeg",buffer:big},
 {name:"List of bells.pdf",mimeType:"application/pdf",buffer:pdf(["Two bells and a clapper","A bell wheel of oak"])},
 {name:"Broken.pdf",mimeType:"application/pdf",buffer:Buffer.from("no")},
 {name:"letter.docx",mimeType:"application/x",buffer:Buffer.from("no")},
 {name:"Nothing.txt",mimeType:"text/plain",buffer:Buffer.alloc(0)},
]);
await p.waitForTimeout(4000);
await p.screenshot({ path: "/tmp/f1.png" });
await p.getByRole("button",{name:"Look at List of bells.pdf"}).click();
await p.waitForTimeout(2500);
await p.screenshot({ path: "/tmp/f2.png" });
await p.keyboard.press("Escape");
await p.getByRole("button",{name:/Look at A very long/}).click();
await p.waitForTimeout(1500);
await p.screenshot({ path: "/tmp/f3.png" });
await p.keyboard.press("Escape");
await p.getByRole("button",{name:"Send request"}).click();
await p.waitForURL(/OFFER-/);
await p.screenshot({ path: "/tmp/f4.png" });
await p.setViewportSize({width:390,height:844});
await p.reload(); await p.waitForTimeout(1500);
await p.screenshot({ path: "/tmp/f5.png" });
console.log(p.url());
await b.close();
