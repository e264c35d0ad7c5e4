import { spawn, type ChildProcess } from "node:child_process";
import {
  appendFileSync,
  chownSync,
  existsSync,
  mkdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { connect } from "node:net";
import { join } from "node:path";

const SERVER = "/usr/sbin/dovecot";

/**
 * Starts Debian's IMAP server over a folder of Maildirs, with nothing but what it needs, on loopback.
 * @param as the user it runs as, where this program is root's: it would run its parts as users of its own
 */
export async function startImap(o: {
  folder: string;
  mail: string;
  port: number;
  password: string;
  as: { uid: number; gid: number; user: string; group: string };
  root: boolean;
}): Promise<() => Promise<void>> {
  if (!existsSync(SERVER)) throw new Error("The IMAP server is missing: apt-get install dovecot-imapd");
  // Sockets have short names only.
  rmSync(o.folder, { recursive: true, force: true });
  for (const part of ["", "run", "state"]) {
    const path = join(o.folder, part);
    mkdirSync(path, { recursive: true, mode: 0o755 });
    if (o.root) chownSync(path, o.as.uid, o.as.gid);
  }
  const log = join(o.folder, "log");
  appendFileSync(log, "");
  if (o.root) chownSync(log, o.as.uid, o.as.gid);
  const config = join(o.folder, "dovecot.conf");
  writeFileSync(
    config,
    `
protocols = imap
listen = 127.0.0.1
base_dir = ${join(o.folder, "run")}
state_dir = ${join(o.folder, "state")}
default_internal_user = ${o.as.user}
default_internal_group = ${o.as.group}
default_login_user = ${o.as.user}
first_valid_uid = 1
mail_max_userip_connections = 50
service anvil {
  chroot =
}
service stats {
  chroot =
}
service imap-login {
  chroot =
  service_count = 0
  inet_listener imap {
    port = ${o.port}
  }
  inet_listener imaps {
    port = 0
  }
}
ssl = no
disable_plaintext_auth = no
passdb {
  driver = static
  args = password=${o.password}
}
userdb {
  driver = static
  args = home=${o.mail}/%Lu allow_all_users=yes
}
mail_location = maildir:${o.mail}/%Lu
maildir_stat_dirs = no
log_path = ${log}
`,
  );
  const argv = ["-F", "-c", config];
  const child: ChildProcess = o.root
    ? spawn(
        "setpriv",
        [
          `--reuid=${o.as.uid}`,
          `--regid=${o.as.gid}`,
          "--clear-groups",
          "--pdeathsig",
          "TERM",
          SERVER,
          ...argv,
        ],
        { stdio: "ignore" },
      )
    : spawn(SERVER, argv, { stdio: "ignore" });
  let gone = false;
  child.on("exit", () => (gone = true));
  for (let i = 0; !(await answers(o.port)); i++) {
    if (gone || i > 100)
      throw new Error(`The IMAP server did not start:\n${readFileSync(log, "utf8").slice(-1000)}`);
    await new Promise((r) => setTimeout(r, 50));
  }
  return () =>
    new Promise((resolve) => {
      if (gone) return resolve();
      child.once("exit", () => resolve());
      child.kill("SIGTERM");
    });
}

const answers = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const s = connect(port, "127.0.0.1");
    s.once("data", () => (s.destroy(), resolve(true)));
    s.once("error", () => resolve(false));
    s.setTimeout(1000, () => (s.destroy(), resolve(false)));
  });
