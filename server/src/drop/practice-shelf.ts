import express, { type Express, type Request, type Response } from 'express';
import { createServer, type Server } from 'node:http';
import { createReadStream } from 'node:fs';
import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { newId } from '../store/id.js';

/** Who may use the practice shelf; it listens on loopback alone. */
export const PRACTICE_SHELF = { user: 'practice', password: 'tide-and-shelf' };
const LARGEST = '100mb';

/** A small WebDAV server (RFC 4918, class 1 without properties of one's own) over a folder, to try drop-offs with. */
export class PracticeShelf {
  private server: Server | null = null;

  constructor(private readonly root: string) {}

  /** At the port that it had the last time, where that is free. @returns its address. */
  async listen(): Promise<string> {
    await mkdir(this.root, { recursive: true });
    const kept = `${this.root}.port`;
    const before = Number(await readFile(kept, 'utf8').catch(() => '0'));
    const server = (this.server = createServer(this.app()));
    await listenAt(server, Number.isInteger(before) ? before : 0).catch(() => listenAt(server, 0));
    const { port } = server.address() as AddressInfo;
    await writeFile(kept, String(port));
    return `http://127.0.0.1:${port}/`;
  }

  async close(): Promise<void> {
    const { server } = this;
    if (!server) return;
    await new Promise<void>((resolve) => {
      server.close(() => resolve());
      server.closeAllConnections();
    });
  }

  private app(): Express {
    const app = express();
    app.disable('x-powered-by');
    app.use((request, response, next) => {
      const given = Buffer.from(
        request.headers.authorization?.replace(/^Basic /, '') ?? '',
        'base64',
      ).toString();
      if (given === `${PRACTICE_SHELF.user}:${PRACTICE_SHELF.password}`) next();
      else response.status(401).set('WWW-Authenticate', 'Basic realm="Practice shelf"').end();
    });
    app.use(express.raw({ type: () => true, limit: LARGEST }));
    app.use((request, response, next) => {
      this.answer(request, response).catch((error: NodeJS.ErrnoException) => {
        const status = { ENOENT: 404, ENOTDIR: 409, EEXIST: 405, EISDIR: 405, ENOSPC: 507 }[error.code ?? ''];
        if (status) response.status(status).end();
        else next(error);
      });
    });
    return app;
  }

  private async answer(request: Request, response: Response): Promise<void> {
    const at = this.placeOf(request.path);
    if (at === null) {
      response.status(403).end();
      return;
    }
    switch (request.method) {
      case 'OPTIONS':
        response.set({ DAV: '1', Allow: 'OPTIONS, GET, HEAD, PUT, DELETE, MKCOL, PROPFIND' }).end();
        return;
      case 'GET':
      case 'HEAD': {
        const { size } = await stat(at);
        response.set({ 'Content-Length': String(size), 'Content-Type': 'application/octet-stream' });
        if (request.method === 'HEAD') response.end();
        else createReadStream(at).pipe(response);
        return;
      }
      case 'PUT': {
        // RFC 4918, 9.7.1: a folder above has to be there.
        await stat(path.dirname(at)).catch(() =>
          Promise.reject(Object.assign(new Error(), { code: 'ENOTDIR' })),
        );
        const beside = `${at}.${newId()}.part`;
        await writeFile(beside, Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0));
        await rename(beside, at);
        response.status(201).end();
        return;
      }
      case 'MKCOL':
        await stat(path.dirname(at)).catch(() =>
          Promise.reject(Object.assign(new Error(), { code: 'ENOTDIR' })),
        );
        await mkdir(at);
        response.status(201).end();
        return;
      case 'DELETE':
        await stat(at);
        await rm(at, { recursive: true });
        response.status(204).end();
        return;
      case 'PROPFIND':
        response
          .status(207)
          .type('application/xml')
          .send(await this.properties(at, request));
        return;
      default:
        response.status(405).end();
    }
  }

  /** Within the folder, or null. */
  private placeOf(asked: string): string | null {
    const parts = asked.split('/').filter(Boolean).map(decodeURIComponent);
    if (parts.some((part) => part === '..' || part === '.' || /[/\\\0]/.test(part))) return null;
    return path.join(this.root, ...parts);
  }

  private async properties(at: string, request: Request): Promise<string> {
    const own = await stat(at);
    const within = own.isDirectory() && request.headers.depth !== '0' ? await readdir(at) : [];
    const base = request.path.replace(/\/$/, '');
    const lines = [propertiesOf(own.isDirectory() ? `${base}/` : base, own)];
    for (const name of within)
      lines.push(propertiesOf(`${base}/${encodeURIComponent(name)}`, await stat(path.join(at, name))));
    return `<?xml version="1.0" encoding="utf-8"?>\n<D:multistatus xmlns:D="DAV:">${lines.join('')}</D:multistatus>`;
  }
}

async function listenAt(server: Server, port: number): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => {
      server.off('error', reject);
      resolve();
    });
  });
}

const propertiesOf = (
  href: string,
  about: { isDirectory(): boolean; readonly size: number; readonly mtime: Date },
): string => `<D:response><D:href>${href.replace(/&/g, '&amp;')}</D:href><D:propstat><D:prop>
<D:resourcetype>${about.isDirectory() ? '<D:collection/>' : ''}</D:resourcetype>
<D:getcontentlength>${about.size}</D:getcontentlength>
<D:getlastmodified>${about.mtime.toUTCString()}</D:getlastmodified>
</D:prop><D:status>HTTP/1.1 200 OK</D:status></D:propstat></D:response>`;
