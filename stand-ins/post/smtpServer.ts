import { SMTPServer } from "smtp-server";
import { deliver, isRefused } from "./delivery";
import type { Faults } from "./faults";
import type { MailFolders } from "./mailFolders";

const MOST_BYTES = 60 * 1024 * 1024;
const wait = (ms: number) => new Promise<void>((r) => (ms > 0 ? setTimeout(r, ms) : r()));
const refused = (code: number, text: string) => Object.assign(new Error(text), { responseCode: code });

/** Takes mail for any address, by SMTP on loopback, as well or as badly as it was told. */
export async function startSmtp(o: {
  port: number;
  password: string;
  folders: MailFolders;
  faults: () => Faults;
}): Promise<() => Promise<void>> {
  const server = new SMTPServer({
    disabledCommands: ["STARTTLS"],
    authOptional: true,
    allowInsecureAuth: true,
    size: MOST_BYTES,
    disableReverseLookup: true,
    onAuth: ({ username, password }, _session, done) =>
      password === o.password && username
        ? done(null, { user: username })
        : done(refused(535, "5.7.8 That is not the password")),
    onRcptTo: ({ address }, _session, done) =>
      done(isRefused(address) ? refused(550, `5.1.1 There is no mailbox ${address}`) : null),
    onData(stream, session, done) {
      const parts: Buffer[] = [];
      stream.on("data", (d: Buffer) => parts.push(d));
      stream.on("end", () => {
        const { mailFrom, rcptTo } = session.envelope;
        const faults = o.faults();
        const lose = () => [...server.connections].find((c) => c.id === session.id)?._socket.destroy();
        const sent = async () => {
          await wait(faults.slow);
          if (stream.sizeExceeded) return done(refused(552, "5.3.4 The mail is too large"));
          if (Math.random() < faults.refuse) return done(refused(451, "4.3.0 Not now, try again later"));
          if (Math.random() < faults.loseBefore) return lose();
          await deliver(o.folders, faults, {
            raw: Buffer.concat(parts),
            from: mailFrom ? mailFrom.address : "",
            to: rcptTo.map((r) => r.address),
            signedIn: typeof session.user === "string" ? session.user : null,
          });
          if (Math.random() < faults.loseAfter) return lose();
          done(null, "Taken");
        };
        sent().catch((e: Error) => done(refused(451, e.message)));
      });
    },
  });
  server.on("error", () => undefined);
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(o.port, "127.0.0.1", () => resolve());
  });
  return () => new Promise((resolve) => server.close(() => resolve()));
}
