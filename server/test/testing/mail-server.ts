import { createServer, type Server, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';

/** What a scripted mail server says at a step: a reply, or `drop`, which hangs up without one. */
export type Step = 'greeting' | 'EHLO' | 'MAIL' | 'RCPT' | 'DATA' | 'text';

/** A mail server (RFC 5321) that says what a test wants at each step, and keeps the texts that it took. */
export class ScriptedMailServer {
  readonly taken: { to: string; text: string }[] = [];
  /** Texts whose end came, taken or not. */
  ended = 0;
  private readonly script = new Map<Step, string>();
  private readonly refused = new Map<string, string>();
  private readonly sockets = new Set<Socket>();
  private readonly server: Server = createServer((socket) => this.talk(socket));

  async listen(): Promise<string> {
    await new Promise<void>((resolve) => this.server.listen(0, '127.0.0.1', resolve));
    return `smtp://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  /** From now on says this at a step; all is well where nothing is said. */
  say(step: Step, reply: string): void {
    this.script.set(step, reply);
  }

  /** From now on says this of one recipient. */
  sayOf(address: string, reply: string): void {
    this.refused.set(address, reply);
  }

  behave(): void {
    this.script.clear();
    this.refused.clear();
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    await new Promise<void>((resolve) => this.server.close(() => resolve()));
  }

  private talk(socket: Socket): void {
    this.sockets.add(socket);
    socket.on('close', () => this.sockets.delete(socket));
    socket.on('error', () => undefined);
    let seen = '';
    let inText = false;
    let to = '';
    const answer = (step: Step, well: string): boolean => {
      const reply = this.script.get(step) ?? well;
      if (reply === 'drop') socket.destroy();
      else socket.write(`${reply}\r\n`);
      return reply === well;
    };
    answer('greeting', '220 scripted.example');
    socket.on('data', (chunk) => {
      seen += chunk.toString('latin1');
      for (;;) {
        if (inText) {
          const end = seen.indexOf('\r\n.\r\n');
          if (end < 0) return;
          const text = seen.slice(0, end);
          seen = seen.slice(end + 5);
          inText = false;
          this.ended++;
          if (answer('text', '250 Taken')) this.taken.push({ to, text });
          to = '';
          continue;
        }
        const end = seen.indexOf('\r\n');
        if (end < 0) return;
        const line = seen.slice(0, end);
        seen = seen.slice(end + 2);
        if (/^EHLO|^HELO/i.test(line)) answer('EHLO', '250 scripted.example');
        else if (/^MAIL/i.test(line)) answer('MAIL', '250 Fine');
        else if (/^RCPT/i.test(line)) {
          const address = /<([^>]*)>/.exec(line)?.[1] ?? '';
          const reply = this.refused.get(address);
          if (reply) socket.write(`${reply}\r\n`);
          else if (answer('RCPT', '250 Fine')) to = to === '' ? address : `${to}, ${address}`;
        } else if (/^DATA/i.test(line)) inText = answer('DATA', '354 Go on');
        else if (/^QUIT/i.test(line)) socket.end('221 Bye\r\n');
        else if (/^STARTTLS/i.test(line)) socket.write('502 Not here\r\n');
        else socket.write('250 Fine\r\n');
      }
    });
  }
}
