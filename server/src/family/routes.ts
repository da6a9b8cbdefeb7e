import { OWN_LINK } from '@scriptum/core/note';
import express, { type Request, type Response, type Router } from 'express';
import cookieParser from 'cookie-parser';
import { rateLimit } from 'express-rate-limit';
import type { DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import { disposition } from '../http/disposition.js';
import { FileGone, type Enclosing } from '../post/enclosing.js';
import { messageWithFiles } from '../post/message-claims.js';
import { findLink, isPass, openLink, passFor } from '../post/private-links.js';
import type { OutgoingFile } from '../post/transport.js';
import { stateOf } from '../store/link-state.js';
import type { PrivateLinkRow } from '../store/entities/private-link.js';
import type { KeptEnvelope } from '../store/entities/register.js';
import { familyPage, type PageState, type ShownPaper } from './page.js';

export interface FamilyParts {
  readonly database: DataSource;
  readonly enclosing: Enclosing;
  readonly events: FolioEvents;
  readonly secureCookies: boolean;
}

const PASS = 'scriptum.pass';
/** Bytes of an answer. */
const ANSWER_BODY = 4 * 1024;
/** Requests a minute of one address, many families behind one among them. */
const PER_MINUTE = 600;

/**
 * The pages that private links lead to, for who has no account: apart from the rest, without scripts and without a session. An address
 * is as good as its token; who opens it says so by a button, so that programs that look at links in mail open nothing.
 */
export function familyPages({ database, enclosing, events, secureCookies }: FamilyParts): Router {
  const { manager } = database;
  const router = express.Router();
  router.use((_request, response, next) => {
    response.set({ 'Cache-Control': 'no-store', 'X-Robots-Tag': 'noindex, nofollow' });
    next();
  });
  router.use(rateLimit({ windowMs: 60_000, limit: PER_MINUTE, legacyHeaders: false, standardHeaders: true }));
  router.use(cookieParser());
  router.use(express.urlencoded({ extended: false, limit: ANSWER_BODY, parameterLimit: 4 }));

  const show = async (
    response: Response,
    link: PrivateLinkRow | null,
    state: PageState,
    status = 200,
  ): Promise<void> => {
    const about = link && (await aboutOf(link));
    const page = familyPage({
      language: about?.language ?? 'en-GB',
      school: about?.school ?? '',
      ends: link?.ends ?? null,
      state,
      nonce: String(response.locals['nonce']),
    });
    response.status(status).type('html').send(page);
  };
  const aboutOf = async (link: PrivateLinkRow): Promise<{ school: string; language: string }> => {
    const [row] = await manager.query<{ name: string; envelope: string | null }[]>(
      'SELECT s.name, m.envelope FROM message m JOIN school s ON s.id = m.schoolId WHERE m.id = ?',
      [link.messageId],
    );
    const { language } = JSON.parse(row?.envelope ?? '{}') as Partial<KeptEnvelope>;
    return { school: row?.name ?? '', language: language ?? 'en-GB' };
  };
  /** The link, where it works; else says why not. */
  const working = async (request: Request, response: Response): Promise<PrivateLinkRow | null> => {
    const token = String(request.params['token']);
    const link = await findLink(manager, token);
    if (!link) {
      const says = token === OWN_LINK ? 'trial' : 'unknown';
      await show(response, null, { kind: 'says', says }, says === 'trial' ? 200 : 404);
      return null;
    }
    const state = stateOf(link);
    if (state === 'works') return link;
    await show(response, link, { kind: 'says', says: state }, state === 'closed' ? 429 : 410);
    return null;
  };
  const door = ({ ask }: PrivateLinkRow, left: number | null = null): PageState =>
    ask ? { kind: 'ask', title: ask.title, isDay: ask.isDay, left } : { kind: 'closed-door' };

  router.get('/:token', async (request, response) => {
    const link = await working(request, response);
    if (!link) return;
    if (!isPass(link, request.cookies[PASS])) return show(response, link, door(link));
    const token = String(request.params['token']);
    const papers = (await papersOf(link)).map(({ name, bytes, counts }, n): ShownPaper => ({
      name,
      bytes: counts ? bytes : null,
      href: counts ? `/p/${token}/${n + 1}` : null,
    }));
    await show(response, link, { kind: 'papers', papers });
  });

  router.post('/:token', async (request, response) => {
    const link = await working(request, response);
    if (!link) return;
    const { answer } = (request.body ?? {}) as { answer?: unknown };
    const { state, open, left } = await openLink(database, link, typeof answer === 'string' ? answer : '');
    if (open) {
      if (!link.openedAt) events.tell(link.folioId, { kind: 'dispatch' });
      const { value, maxAge } = passFor(link);
      const address = `/p/${String(request.params['token'])}`;
      response.cookie(PASS, value, {
        httpOnly: true,
        sameSite: 'strict',
        secure: secureCookies,
        path: address,
        maxAge,
      });
      return response.redirect(303, address);
    }
    if (state !== 'works') return show(response, link, { kind: 'says', says: state }, 429);
    await show(response, link, door(link, left), 422);
  });

  router.get('/:token/:n', async (request, response) => {
    const link = await working(request, response);
    if (!link) return;
    if (!isPass(link, request.cookies[PASS]))
      return response.redirect(303, `/p/${String(request.params['token'])}`);
    const at = Number(request.params['n']) - 1;
    const papers = await papersOf(link);
    const due = papers[at]?.counts ? await messageWithFiles(manager, link.schoolId, link.messageId) : null;
    const file = due && (await fileOf({ ...due, files: due.files.slice(at, at + 1) }));
    if (!file) return show(response, link, { kind: 'says', says: 'unknown' }, 404);
    disposition(response, 'inline', file.name);
    response.type('application/pdf').send(file.bytes);
  });

  router.use((_request, response) => show(response, null, { kind: 'says', says: 'unknown' }, 404));

  const fileOf = async (due: Parameters<Enclosing['papers']>[1]): Promise<OutgoingFile | null> => {
    try {
      return (await enclosing.papers(manager, due))[0] ?? null;
    } catch (error) {
      if (error instanceof FileGone) return null;
      throw error;
    }
  };
  /** The papers of the message, in the order in which its files are read. */
  const papersOf = async ({
    schoolId,
    messageId,
  }: PrivateLinkRow): Promise<{ name: string; bytes: number | null; counts: boolean }[]> => {
    const rows = await manager.query<{ fileName: string; bytes: number | null; state: string }[]>(
      `SELECT p.fileName, p.bytes, p.state FROM enclosure c JOIN paper p ON p.id = c.paperId
       WHERE c.messageId = ? AND c.schoolId = ? ORDER BY c.place, c.paperId`,
      [messageId, schoolId],
    );
    return rows.map(({ fileName, bytes, state }) => ({
      name: fileName
        .split('/')
        .at(-1)!
        .replace(/\.pdf$/i, ''),
      bytes,
      counts: ['pressed', 'cleared', 'dispatched'].includes(state),
    }));
  };
  return router;
}
