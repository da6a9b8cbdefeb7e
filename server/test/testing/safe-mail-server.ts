import type { AddressInfo } from 'node:net';
import { generate } from 'selfsigned';
import { SMTPServer, type SMTPServerOptions } from 'smtp-server';

/** A mail server that wants its line secured (STARTTLS, and TLS at another port), and knows one user: `office`, `right`. */
export class SafeMailServer {
  readonly taken: { to: string[]; raw: Buffer }[] = [];

  private constructor(
    readonly certificate: string,
    private readonly servers: readonly [SMTPServer, SMTPServer],
  ) {}

  /** @param name whom its certificate is made out for, beside `localhost`; of `other…` for that name alone. */
  static async start(name: string): Promise<SafeMailServer> {
    const names = name.startsWith('other') ? [name] : [name, 'localhost'];
    const made = await generate([{ name: 'commonName', value: name }], {
      keySize: 2048,
      extensions: [
        { name: 'basicConstraints', cA: true },
        { name: 'subjectAltName', altNames: names.map((value) => ({ type: 2, value })) },
      ],
    } as never);
    const options: SMTPServerOptions = {
      key: made.private,
      cert: made.cert,
      disableReverseLookup: true,
      closeTimeout: 200,
      onAuth: ({ username, password }, _session, done) =>
        username === 'office' && password === 'right'
          ? done(null, { user: 'office' })
          : done(Object.assign(new Error('Authentication credentials invalid'), { responseCode: 535 })),
      onData: (stream, session, done) => {
        const chunks: Buffer[] = [];
        stream.on('data', (chunk: Buffer) => chunks.push(chunk));
        stream.on('end', () => {
          safe.taken.push({
            to: session.envelope.rcptTo.map(({ address }) => address),
            raw: Buffer.concat(chunks),
          });
          done();
        });
      },
    };
    const servers = [new SMTPServer(options), new SMTPServer({ ...options, secure: true })] as const;
    const safe = new SafeMailServer(made.cert, servers);
    for (const one of servers) {
      one.on('error', () => undefined);
      await new Promise<void>((resolve) => one.listen(0, '127.0.0.1', () => resolve()));
    }
    return safe;
  }

  get port(): number {
    return (this.servers[0].server.address() as AddressInfo).port;
  }

  get tlsPort(): number {
    return (this.servers[1].server.address() as AddressInfo).port;
  }

  async close(): Promise<void> {
    for (const one of this.servers) await new Promise<void>((resolve) => one.close(() => resolve()));
  }
}
