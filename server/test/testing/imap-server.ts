import { createServer as createTlsServer } from 'node:tls';
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';

/** A mailbox that is read by IMAP4rev1 (RFC 3501), as far as a client that changes nothing asks. It knows one user: `office`, `right`. */
export class ReadOnlyMailbox {
  readonly messages: { readonly uid: number; readonly raw: Buffer }[] = [];
  uidValidity = 1;
  /** What clients have said, without passwords. */
  readonly heard: string[] = [];
  private nextUid = 1;
  private readonly sockets = new Set<Socket>();
  private readonly server: Server;

  /** @param tls with which the line is secured from its beginning; open without. */
  constructor(tls?: { readonly key: string; readonly cert: string }) {
    const talk = (socket: Socket): void => this.talk(socket);
    this.server = tls ? createTlsServer(tls, talk) : createServer(talk);
    this.server.on('tlsClientError', () => undefined);
  }

  async listen(): Promise<number> {
    await new Promise<void>((resolve) => this.server.listen(0, '127.0.0.1', resolve));
    return (this.server.address() as AddressInfo).port;
  }

  put(raw: Buffer | string): void {
    this.messages.push({ uid: this.nextUid++, raw: Buffer.from(raw) });
  }

  /** Made anew: what had an identity here has another one. */
  makeAnew(): void {
    const all = this.messages.splice(0);
    this.uidValidity++;
    this.nextUid = 1;
    for (const { raw } of all) this.put(raw);
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
    socket.write('* OK [CAPABILITY IMAP4rev1] here\r\n');
    socket.on('data', (chunk) => {
      seen += chunk.toString('latin1');
      for (let end; (end = seen.indexOf('\r\n')) >= 0;) {
        const line = seen.slice(0, end);
        seen = seen.slice(end + 2);
        const [, tag = '', command = '', rest = ''] = /^(\S+) (UID \S+|\S+) ?(.*)$/i.exec(line) ?? [];
        this.heard.push(/^LOGIN$/i.test(command) ? 'LOGIN' : `${command} ${rest}`.trim());
        this.answer(socket, tag, command.toUpperCase(), rest);
      }
    });
  }

  private answer(socket: Socket, tag: string, command: string, rest: string): void {
    const done = (says = 'OK done'): void => void socket.write(`${tag} ${says}\r\n`);
    switch (command) {
      case 'CAPABILITY':
        socket.write('* CAPABILITY IMAP4rev1\r\n');
        return done();
      case 'LOGIN':
        return /^"?office"? "?right"?$/.test(rest)
          ? done('OK [CAPABILITY IMAP4rev1] in')
          : done('NO [AUTHENTICATIONFAILED] Unknown user or wrong password');
      case 'LIST':
      case 'LSUB':
        socket.write(`* ${command} (\\HasNoChildren) "/" "INBOX"\r\n`);
        return done();
      case 'EXAMINE':
      case 'SELECT':
        if (!/^"?INBOX"?$/i.test(rest)) return done('NO [NONEXISTENT] No such mailbox');
        socket.write(
          `* FLAGS (\\Seen)\r\n* ${this.messages.length} EXISTS\r\n* 0 RECENT\r\n* OK [UIDVALIDITY ${this.uidValidity}] here\r\n* OK [UIDNEXT ${this.nextUid}] next\r\n`,
        );
        return done('OK [READ-ONLY] open');
      case 'UID FETCH':
        this.fetch(socket, rest);
        return done();
      case 'LOGOUT':
        socket.write('* BYE\r\n');
        done();
        return void socket.end();
      default:
        return done('NOOP CLOSE UNSELECT'.includes(command) ? undefined : 'BAD not known');
    }
  }

  private fetch(socket: Socket, rest: string): void {
    const [, from = '', to = from] = /^(\d+)(?::(\d+|\*))? /.exec(rest) ?? [];
    for (const [n, { uid, raw }] of this.messages.entries()) {
      if (uid < Number(from) || (to !== '*' && uid > Number(to))) continue;
      const parts = [`UID ${uid}`];
      if (/RFC822\.SIZE/i.test(rest)) parts.push(`RFC822.SIZE ${raw.length}`);
      const asked = /BODY\.PEEK\[([^\]]*)\]/i.exec(rest)?.[1];
      if (asked !== undefined) {
        const head = raw.toString('latin1').split('\r\n\r\n')[0]!;
        const type = /^content-type:.*(?:\r\n[ \t].*)*/im.exec(head)?.[0] ?? '';
        const bytes = asked === '' ? raw.toString('latin1') : `${type}\r\n\r\n`;
        parts.push(`BODY[${asked}] {${bytes.length}}\r\n${bytes}`);
      }
      socket.write(Buffer.from(`* ${n + 1} FETCH (${parts.join(' ')})\r\n`, 'latin1'));
    }
  }
}
