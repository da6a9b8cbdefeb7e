import { spawn, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const program = fileURLToPath(new URL('../start-main.js', import.meta.url));

/** Scriptum in a process of its own, as `npm start` runs it, so that it can be killed. */
export class ServerProcess {
  private constructor(
    private readonly child: ChildProcess,
    /** Where the interface is. */
    readonly url: string,
  ) {}

  /** Starts it and waits for its address. @throws Error with what it said, where it ends instead */
  static async start(environment: NodeJS.ProcessEnv): Promise<ServerProcess> {
    const child = spawn(process.execPath, [program], {
      env: { ...process.env, NODE_OPTIONS: '', SCRIPTUM_PORT: '0', SCRIPTUM_LOG: 'silent', ...environment },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    return new Promise((resolve, reject) => {
      let said = '';
      child.stdout.on('data', (chunk: Buffer) => {
        said += chunk.toString();
        const address = /Scriptum is ready:\s+(\S+)/.exec(said)?.[1];
        if (address) resolve(new ServerProcess(child, address));
      });
      child.once('exit', () => reject(new Error(said)));
    });
  }

  get isRunning(): boolean {
    return this.child.exitCode === null && this.child.signalCode === null;
  }

  /** As a power cut would. */
  kill(): Promise<number | null> {
    return this.end('SIGKILL');
  }

  /** As Ctrl-C would. @returns its exit code */
  stop(): Promise<number | null> {
    return this.end('SIGINT');
  }

  private async end(signal: NodeJS.Signals): Promise<number | null> {
    if (!this.isRunning) return this.child.exitCode;
    const ended = new Promise<number | null>((resolve) => this.child.once('exit', resolve));
    this.child.kill(signal);
    return ended;
  }
}
