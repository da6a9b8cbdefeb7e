import type { OrderWork } from '@scriptum/core/contract';
import { escapeHtml } from '@scriptum/core/text';
import express, { type Request, type Response, type Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { IsNull, type DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import { disposition } from '../http/disposition.js';
import type { Leaving } from '../ground/leaving.js';
import { answerAsked, workOf } from '../order/order-works.js';
import type { StandingOrders } from '../order/standing-orders.js';
import type { YesLinks } from '../order/yes-links.js';
import { notFound, Refusal } from '../refusal.js';
import { paperFile } from '../register/paper-file.js';
import { StandingOrderRow } from '../store/entities/orders.js';
import { School, Staff } from '../store/entities/people.js';
import { findFolio } from '../store/folios.js';
import { inTransaction } from '../store/in-transaction.js';
import { plainPage } from './page.js';

export interface YesParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly orders: StandingOrders;
  readonly yesLinks: YesLinks;
  readonly leaving: Leaving;
}

/** Bytes of a word; requests a minute of one address. */
const BODY = 64 * 1024;
const PER_MINUTE = 120;

/** An order with who was asked for a yes. */
interface Asked {
  readonly order: StandingOrderRow;
  readonly staff: Staff;
}

/**
 * The pages that links in mail to staff lead to, by which they say yes or no without signing in. Nothing is said by looking at one, so
 * programs that look at links in mail say nothing.
 */
export function yesPages({ database, events, orders, yesLinks, leaving }: YesParts): Router {
  const { manager } = database;
  const router = express.Router();
  router.use((_request, response, next) => {
    response.set({ 'Cache-Control': 'no-store', 'X-Robots-Tag': 'noindex, nofollow' });
    next();
  });
  router.use(rateLimit({ windowMs: 60_000, limit: PER_MINUTE, legacyHeaders: false, standardHeaders: true }));
  router.use(express.urlencoded({ extended: false, limit: BODY, parameterLimit: 4 }));

  const askedBy = async (request: Request): Promise<Asked | null> => {
    const link = yesLinks.read(String(request.params['link']));
    const order =
      link && (await manager.findOneBy(StandingOrderRow, { id: link.orderId, deletedAt: IsNull() }));
    const staff = order && (await manager.findOneBy(Staff, { id: link!.staffId, schoolId: order.schoolId }));
    return staff ? { order: order!, staff } : null;
  };
  const waitingOf = ({ schoolId, folioId, id }: StandingOrderRow): ReturnType<typeof workOf> =>
    workOf(manager, { schoolId, folioId, orderId: id }, 'asked');

  const show = async (
    { params: { link } }: Request,
    response: Response,
    asked: Asked | null,
    done: string | null,
    status = 200,
  ): Promise<void> => {
    const page = (title: string, body: string): string =>
      plainPage({ language: 'en-GB', dir: 'ltr', title, body, nonce: String(response.locals['nonce']) });
    response.status(status).type('html');
    if (!asked) {
      response.send(
        page(
          'This link does not work',
          '<h1 class="says">This link does not work, or not any more. Sign in to Scriptum to see what waits.</h1>',
        ),
      );
      return;
    }
    const { order } = asked;
    const { schoolId, folioId } = order;
    const [school, folio, { work, more }] = await Promise.all([
      manager.findOneByOrFail(School, { id: schoolId }),
      findFolio(manager, schoolId, folioId),
      waitingOf(order),
    ]);
    const title =
      work.length === 0
        ? 'Nothing waits for a yes'
        : `${work.length}${more ? '+' : ''} ${work.length === 1 ? 'learner’s papers wait' : 'learners’ papers wait'} for a yes`;
    response.send(
      page(
        title,
        `<p class="from">${escapeHtml(school.name)}</p>
<h1>${escapeHtml(title)}</h1>
${done === null ? '' : `<p class="done" role="status">${escapeHtml(done)}</p>`}
<p class="about">${escapeHtml(`“${order.content.name}” in “${folio.title}”`)}</p>
${work.length === 0 ? '' : listOf(work, `/y/${link}`)}`,
      ),
    );
  };

  router.get('/:link', async (request, response) => {
    const asked = await askedBy(request);
    await show(request, response, asked, doneOf(request.query['done']), asked ? 200 : 404);
  });
  router.post('/:link', async (request, response) => {
    const asked = await askedBy(request);
    if (!asked) return show(request, response, null, null, 404);
    const { order, staff } = asked;
    const { schoolId, folioId, id: orderId } = order;
    const { say, works } = (request.body ?? {}) as { say?: unknown; works?: unknown };
    const workIds =
      typeof works === 'string' ? works.split(' ').filter((id) => /^[0-9a-z]{16}$/.test(id)) : [];
    if ((say !== 'yes' && say !== 'no') || workIds.length === 0)
      return show(request, response, asked, 'That could not be read. Look again, and say yes or no.', 422);
    try {
      const { done } = await inTransaction(database, (inside) =>
        answerAsked(
          inside,
          { schoolId, folioId, orderId, staffId: staff.id },
          { workIds, yes: say === 'yes' },
        ),
      );
      events.tell(folioId, { kind: 'order' });
      events.tell(folioId, { kind: 'run' });
      await orders.due({ schoolId, folioId });
      response.redirect(303, `/y/${String(request.params['link'])}?done=${say}-${done}`);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      await show(request, response, asked, error.message, error.status);
    }
  });
  router.get('/:link/:paper', async (request, response) => {
    const asked = await askedBy(request);
    if (!asked) return show(request, response, null, null, 404);
    const { schoolId, folioId } = asked.order;
    const id = String(request.params['paper']);
    const { work } = await waitingOf(asked.order);
    const isAsked = work.some(({ papers }) => papers.some((paper) => paper.id === id));
    const file = isAsked ? await paperFile(manager, leaving, { id, schoolId, folioId }) : null;
    if (!file) throw notFound('This paper');
    disposition(response, 'inline', file.name);
    response.type('application/pdf').send(file.bytes);
  });
  router.use((request, response) => show(request, response, null, null, 404));
  return router;

  function listOf(work: readonly OrderWork[], place: string): string {
    const one = ({ learner, why, papers }: OrderWork): string =>
      `<li><div class="one"><strong><bdi>${escapeHtml(learner)}</bdi></strong>${why ? `<br><span class="why">${escapeHtml(why)}</span>` : ''}
${papers.map((paper) => `<br><a href="${escapeHtml(place)}/${escapeHtml(paper.id)}"><bdi>${escapeHtml(paper.fileName.split('/').at(-1)!)}</bdi></a>`).join('')}</div></li>`;
    const all = work.length === 1 ? 'it' : `these ${work.length}`;
    return `<ul>${work.map(one).join('\n')}</ul>
<form method="post" class="two"><input type="hidden" name="works" value="${work.map(({ id }) => id).join(' ')}">
<button type="submit" name="say" value="yes">Yes, send ${all}</button>
<button type="submit" name="say" value="no" class="no">No, do not send ${all}</button></form>`;
  }
}

/** What was done, told after it. */
function doneOf(done: unknown): string | null {
  const [, say, count] = /^(yes|no)-(\d{1,5})$/.exec(String(done)) ?? [];
  if (!say) return null;
  const whose = count === '1' ? '1 learner’s papers' : `${count} learners’ papers`;
  if (count === '0') return 'Somebody else was quicker; nothing of these waits any more.';
  return say === 'yes' ? `Yes: ${whose} leave now.` : `No: ${whose} stay in the register.`;
}
