import { spawn, type ChildProcess } from "node:child_process";

/** A program that is started again at once whenever it ends. */
export class KeptRunning {
  private child: ChildProcess | null = null;
  private stopped = false;
  constructor(
    private readonly file: string,
    private readonly env: NodeJS.ProcessEnv,
  ) {
    this.begin();
  }
  private begin() {
    this.child = spawn(process.execPath, [this.file], { env: this.env, stdio: "ignore" });
    this.child.once("exit", () => {
      if (!this.stopped) setTimeout(() => this.begin(), 50);
    });
  }
  kill() {
    this.child?.kill("SIGKILL");
  }
  stop() {
    this.stopped = true;
    this.kill();
  }
}
