import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  SendAnswer,
  type AnswerKept,
  type OpenedForm,
  type OwnPapers,
  type UploadKept,
} from '@scriptum/core/contract';
import { formForAnswering, type Form } from '@scriptum/core/form';
import express, { type Request, type Response, type Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import pLimit from 'p-limit';
import type { DataSource } from 'typeorm';
import type { Leaving } from '../ground/leaving.js';
import { disposition } from '../http/disposition.js';
import { sendProblem } from '../http/problems.js';
import { sendPicture } from '../http/pictures.js';
import { checkInput, refuseOdd } from '../input.js';
import { AnswersWrong, type Answers } from '../intake/answers.js';
import { doorNow, formAt, stateOfDoor } from '../intake/doors.js';
import { entryByCode } from '../intake/own-entry.js';
import { ownPapers } from '../intake/own-papers.js';
import type { AnswerLinks, Tickets } from '../intake/tickets.js';
import { keepUpload, UPLOAD_MOST } from '../intake/uploads.js';
import { conflict, notFound, Refusal } from '../refusal.js';
import { paperFile } from '../register/paper-file.js';
import { AssetRow } from '../store/entities/folio.js';
import { FormAnswerRow, FormDoorRow } from '../store/entities/intake.js';
import { LetterheadPictureRow } from '../store/entities/letterhead.js';
import { School, Staff } from '../store/entities/people.js';
import { currentLetterhead } from '../store/letterheads.js';

export interface FormParts {
  readonly database: DataSource;
  readonly answers: Answers;
  readonly tickets: Tickets;
  readonly editLinks: AnswerLinks;
  readonly paperLinks: AnswerLinks;
  readonly leaving: Leaving;
  /** Whose session this browser has; null where nobody is signed in. */
  readonly staffOf: (
    request: Request,
    response: Response,
  ) => Promise<{ readonly staffId: string; readonly schoolId: string } | null>;
  /** Folder of the families' built application, or null where there is none. */
  readonly familiesFolder: string | null;
}

/** Bytes of an answer. */
const ANSWER_MOST = 1024 * 1024;
/** Requests a minute of one address: a whole year group may sit behind one. */
const PER_MINUTE = 1200;
const UPLOADS_PER_MINUTE = 240;
/** Codes a minute of one address that are none: a whole year group types them behind one. */
const WRONG_CODES_PER_MINUTE = 200;
/** Files that are in memory at a time; the others wait on the line. */
const UPLOADS_AT_ONCE = 12;

/**
 * Forms as families answer them: apart from the rest, without a session and without cookies. What is sent is refused by a code that the
 * families' application has sentences for in their language.
 */
export function formPages(parts: FormParts): Router {
  const { database, answers, tickets, editLinks, paperLinks, leaving } = parts;
  const { manager } = database;
  const router = express.Router();
  router.use((_request, response, next) => {
    response.set({ 'Cache-Control': 'no-store', 'X-Robots-Tag': 'noindex, nofollow' });
    next();
  });
  router.use(rateLimit({ windowMs: 60_000, limit: PER_MINUTE, legacyHeaders: false, standardHeaders: true }));
  const page = parts.familiesFolder && readFileSync(path.join(parts.familiesFolder, 'index.html'), 'utf8');

  const doorOf = async (request: Request): Promise<FormDoorRow> => {
    const token = String(request.params['token']);
    const door = /^[0-9a-f]{24}$/.test(token) ? await manager.findOneBy(FormDoorRow, { token }) : null;
    if (!door) throw notFound('This form');
    return doorNow(manager, door);
  };
  /** The answer whose link it is. @throws Refusal `not-found` */
  const answerIdOf = (request: Request): string => {
    const id = editLinks.answerOf(String(request.params['edit']));
    if (!id) throw notFound('This answer');
    return id;
  };

  const show = async (request: Request, response: Response): Promise<void> => {
    if (page === null) throw notFound('This page');
    const token = String(request.params['token']);
    // What is being written shows itself at the desk alone.
    const door = token === 'draft' ? null : await doorOf(request).catch(() => null);
    if (door && (await formAt(manager, door)).terms.embed) {
      const policy = String(response.getHeader('Content-Security-Policy'));
      response.set('Content-Security-Policy', policy.replace(/frame-ancestors [^;]+/, 'frame-ancestors *'));
      response.removeHeader('X-Frame-Options');
    }
    response
      .status(door || token === 'draft' ? 200 : 404)
      .type('html')
      .send(
        page
          .replaceAll('%NONCE%', String(response.locals['nonce']))
          // The form comes while the script does.
          .replace('<!-- %PRELOAD% -->', door ? preload(request.baseUrl + request.path) : ''),
      );
  };
  router.get('/:token', show);
  router.get('/:token/change/:edit', show);
  router.get('/:token/for/:code', show);
  router.get('/:token/paper/:link', show);

  /** Why whoever asks may not answer a form that others may; null where they may. */
  const barred = async (
    door: FormDoorRow,
    { terms }: Form,
    request: Request,
    response: Response,
  ): Promise<'code' | 'staff' | null> => {
    // Who has the link to change an answer has shown who they are when they answered.
    if (request.params['edit'] !== undefined) return null;
    if (terms.who === 'roll') return request.params['code'] === undefined ? 'code' : null;
    if (terms.who === 'anyone') return null;
    const staff = await parts.staffOf(request, response);
    const isOurs =
      staff?.schoolId === door.schoolId &&
      (await manager.existsBy(Staff, { id: staff.staffId, schoolId: door.schoolId }));
    return isOurs ? null : 'staff';
  };

  const opened = async (door: FormDoorRow, request: Request, response: Response): Promise<OpenedForm> => {
    const { schoolId, token } = door;
    const [form, school, letterhead] = await Promise.all([
      formAt(manager, door),
      manager.findOneByOrFail(School, { id: schoolId }),
      currentLetterhead(manager, schoolId),
    ]);
    const isOpen = stateOfDoor(door, form, new Date());
    const state = (isOpen === 'open' ? await barred(door, form, request, response) : null) ?? isOpen;
    const { crest, name } = letterhead?.content ?? { crest: null, name: null };
    return {
      school: {
        name: name?.text.trim() || school.name,
        colour: name?.colour ?? '#22303C',
        crest: crest && { href: `/f/${token}/crest`, alt: crest.alt },
      },
      state,
      about: null,
      at: state === 'not yet' ? form.terms.opens : state === 'over' ? form.terms.closes : null,
      version: door.version,
      form: state === 'open' ? formForAnswering(form) : { ...form, items: [] },
      ticket: tickets.give(token),
    };
  };
  router.get('/:token/form', async (request, response) => {
    response.json(await opened(await doorOf(request), request, response));
  });
  router.get('/:token/change/:edit/form', async (request, response) => {
    const door = await doorOf(request);
    const [form, before] = [
      await opened(door, request, response),
      await answers.toChange(door, answerIdOf(request)),
    ];
    response.json({ ...form, ...before } satisfies OpenedForm);
  });
  const wrongCodes = rateLimit({
    windowMs: 60_000,
    limit: WRONG_CODES_PER_MINUTE,
    skipSuccessfulRequests: true,
    // What else is refused is somebody's answer that needs another look.
    requestWasSuccessful: (_request, { statusCode }) => statusCode !== 404,
    legacyHeaders: false,
    standardHeaders: true,
  });
  const ownOf = (request: Request, door: FormDoorRow) =>
    entryByCode(manager, door, String(request.params['code']));
  router.get('/:token/for/:code/form', wrongCodes, async (request, response) => {
    const door = await doorOf(request);
    const { entry, name } = await ownOf(request, door);
    const [form, page] = [await formAt(manager, door), await opened(door, request, response)];
    const { answeredBefore, given, files } = await answers.ownGiven(door, form, entry);
    // Who may change an answer may do so too where no more are taken.
    const isFull = page.state === 'full' && answeredBefore;
    const state = isFull ? 'open' : page.state;
    const told =
      state !== 'open'
        ? { state }
        : answeredBefore && !form.terms.mayChange
          ? { state: 'answered' as const, form: { ...form, items: [] } }
          : { state, form: formForAnswering(form), given, files };
    response.json({ ...page, ...told, about: name } satisfies OpenedForm);
  });
  router.get('/:token/crest', async (request, response) => {
    const { schoolId } = await doorOf(request);
    const crest = (await currentLetterhead(manager, schoolId))?.content.crest;
    const row = crest ? await manager.findOneBy(LetterheadPictureRow, { id: crest.asset, schoolId }) : null;
    await sendPicture(response, manager, row);
  });
  router.get('/:token/pictures/:asset', async (request, response) => {
    const door = await doorOf(request);
    const id = String(request.params['asset']);
    const form = await formAt(manager, door);
    const isShown = form.items.some((item) => item.kind === 'picture' && item.assetId === id);
    const { schoolId, folioId } = door;
    await sendPicture(
      response,
      manager,
      isShown ? await manager.findOneBy(AssetRow, { id, schoolId, folioId }) : null,
    );
  });

  /** The answer whose papers a link leads to. @throws Refusal `not-found`, also where the form gives none */
  const answeredAt = async (request: Request): Promise<{ door: FormDoorRow; answer: FormAnswerRow }> => {
    const door = await doorOf(request);
    const { schoolId, folioId, writingId } = door;
    const id = paperLinks.answerOf(String(request.params['link']));
    const answer = id && (await manager.findOneBy(FormAnswerRow, { id, schoolId, folioId, writingId }));
    if (!answer || !(await formAt(manager, door)).terms.paper) throw notFound('This paper');
    return { door, answer };
  };
  router.get('/:token/paper/:link/form', async (request, response) => {
    const { door } = await answeredAt(request);
    const page = await opened(door, request, response);
    const form = page.form && { ...page.form, items: [] };
    response.json({ ...page, state: 'paper', form } satisfies OpenedForm);
  });
  router.get('/:token/paper/:link/papers', async (request, response) => {
    const { answer } = await answeredAt(request);
    const papers = (await ownPapers(manager, answer)).map(({ id, fileName, bytes }) => ({
      id,
      name: fileName.split('/').at(-1)!,
      bytes: bytes ?? 0,
    }));
    response.json({ papers } satisfies OwnPapers);
  });
  router.get('/:token/paper/:link/:paper', async (request, response) => {
    const { answer } = await answeredAt(request);
    const own = (await ownPapers(manager, answer)).find(({ id }) => id === request.params['paper']);
    const file =
      own &&
      (await paperFile(manager, leaving, { id: own.id, schoolId: own.schoolId, folioId: own.folioId }));
    if (!file) throw notFound('This paper');
    disposition(response, 'attachment', file.name);
    response.type('application/pdf').send(file.bytes);
  });

  /** The key of a ticket that was worked for. @throws Refusal */
  const keyOf = (door: FormDoorRow, ticket: string, nonce: string): string => {
    const looked = tickets.look(door.token, ticket, nonce);
    if (looked.state === 'good') return looked.key;
    if (looked.state === 'early') throw new Refusal(429, 'early', 'That was quick. Try again in a second.');
    throw new Refusal(409, 'ticket-old', 'This page was open for too long. It is sent once more by itself.');
  };
  const body = express.json({ limit: ANSWER_MOST, type: 'application/json' });
  const sentIn = (door: FormDoorRow, request: Request): Parameters<Answers['take']>[1] => {
    refuseOdd(request.body);
    const { ticket, nonce, ...sent } = checkInput(SendAnswer, request.body);
    return { ...sent, key: keyOf(door, ticket, nonce) };
  };
  /** @throws Refusal where whoever sends is not among those who may. */
  const expectAmong = async (door: FormDoorRow, request: Request, response: Response): Promise<void> => {
    const why = await barred(door, await formAt(manager, door), request, response);
    if (why === 'code')
      throw conflict('needs-code', 'This form is answered by a personal link. Ask the school for yours.');
    if (why === 'staff')
      throw new Refusal(403, 'staff-only', 'This form is for staff of the school who are signed in.');
  };
  const reading = pLimit(UPLOADS_AT_ONCE);
  const raw = express.raw({ type: () => true, limit: UPLOAD_MOST });
  router.post(
    ['/:token/uploads', '/:token/for/:code/uploads'],
    rateLimit({ windowMs: 60_000, limit: UPLOADS_PER_MINUTE, legacyHeaders: false, standardHeaders: true }),
    async (request, response) => {
      const door = await doorOf(request);
      if (request.params['code'] === undefined) await expectAmong(door, request, response);
      else await ownOf(request, door);
      const { item, name, ticket, nonce } = request.query;
      // Nothing is read of what nobody has worked for.
      keyOf(door, String(ticket), String(nonce));
      const form = await formAt(manager, door);
      if (stateOfDoor(door, form, new Date()) !== 'open') throw conflict('closed', CLOSED);
      const kept = await reading(async () => {
        await new Promise<void>((resolve, reject) =>
          raw(request, response, (error?: unknown) => (error ? reject(error as Error) : resolve())),
        );
        const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
        return keepUpload(manager, door, form, {
          itemId: String(item),
          name: String(name).slice(0, 500),
          bytes,
        });
      });
      response.json(kept satisfies UploadKept);
    },
  );
  router.post('/:token/answers', body, async (request, response) => {
    const door = await doorOf(request);
    await expectAmong(door, request, response);
    response.json((await answers.take(door, sentIn(door, request))) satisfies AnswerKept);
  });
  router.post('/:token/for/:code/answers', wrongCodes, body, async (request, response) => {
    const door = await doorOf(request);
    const { entry } = await ownOf(request, door);
    response.json((await answers.take(door, sentIn(door, request), entry.id)) satisfies AnswerKept);
  });
  router.put('/:token/change/:edit', body, async (request, response) => {
    const door = await doorOf(request);
    const id = answerIdOf(request);
    response.json((await answers.change(door, id, sentIn(door, request))) satisfies AnswerKept);
  });
  router.use(() => {
    throw notFound('This address');
  });
  router.use((error: unknown, _request: Request, response: Response, next: (error: unknown) => void) => {
    if (!(error instanceof AnswersWrong)) return next(error);
    sendProblem(response, error, { problems: error.problems });
  });
  return router;
}

/** Asks for what a page will ask for; the path has letters, digits, hyphens and slashes alone. */
const preload = (path: string): string =>
  /^[\w/-]+$/.test(path)
    ? `<link rel="preload" as="fetch" href="${path.replace(/\/$/, '')}/form" crossorigin="anonymous">`
    : '';

const CLOSED = 'The school has closed this form. Ask there if you still want to answer.';
