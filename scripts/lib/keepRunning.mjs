import { spawn } from "node:child_process";

const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 30_000;
/** Who ran so long has recovered: the next end of it is a new one. */
const WELL_MS = 60_000;
/** Ended with this, a program will not get further by being started again: its settings are wrong. */
export const HOPELESS = 2;

/**
 * Keeps a program running: started again whenever it ends, with growing waits.
 * @param {{ name: string, command: string, args: string[], env: object, cwd: string, say: (line: string) => void,
 *   hopeless: (name: string) => void, out?: "inherit" | number }} what `out`: where what it prints goes
 * @returns {{ stop(): Promise<void>, pid(): number | undefined }}
 */
export function keepRunning({ name, command, args, env, cwd, say, hopeless, out = "inherit" }) {
  let child = null;
  let stopping = false;
  let wait = FIRST_WAIT_MS;
  let timer = null;
  const begin = () => {
    timer = null;
    const began = Date.now();
    child = spawn(command, args, { cwd, env, stdio: ["ignore", out, out], detached: true });
    child.once("exit", (code, signal) => {
      child = null;
      if (stopping) return;
      if (code === HOPELESS) return hopeless(name);
      if (Date.now() - began > WELL_MS) wait = FIRST_WAIT_MS;
      say(`the ${name} ended by itself (${signal ?? code}); starting it again in ${wait / 1000} s`);
      timer = setTimeout(begin, wait);
      wait = Math.min(wait * 2, LONGEST_WAIT_MS);
    });
  };
  begin();
  return {
    pid: () => child?.pid,
    stop: () =>
      new Promise((resolve) => {
        stopping = true;
        if (timer) clearTimeout(timer);
        if (!child) return resolve();
        const one = child;
        one.once("exit", () => resolve());
        one.kill("SIGTERM");
        setTimeout(() => one.kill("SIGKILL"), 15_000).unref();
      }),
  };
}
