import { safePart } from '@scriptum/core/filing';
import type { MailTest } from '@scriptum/core/contract';
import { raw, type Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import type { DataSource } from 'typeorm';
import type { FolioEvents } from '../folio-events.js';
import type { Accounts } from '../post/accounts.js';
import { talkTo } from '../post/conversation.js';
import { changeDispatch, listDispatches } from '../post/dispatches.js';
import { folioMail, messageFile, MESSAGES_MOST } from '../post/mail-files.js';
import type { ReturnBoxes } from '../post/return-boxes.js';
import type { Enclosing } from '../post/enclosing.js';
import type { Outbox } from '../post/outbox.js';
import { searchQueue } from '../post/queue.js';
import type { Ways } from '../post/ways.js';
import { notFound, Refusal } from '../refusal.js';
import { Staff } from '../store/entities/people.js';
import { MessageRow } from '../store/entities/register.js';
import { findFolio } from '../store/folios.js';
import { recordHappening } from '../store/happenings.js';
import { newId } from '../store/id.js';
import { inTransaction } from '../store/in-transaction.js';
import { DatabaseLimits } from '../store/limits.js';
import { messagesIn } from '../post/read-return.js';
import { takeReturn } from '../post/returns.js';
import { answer } from './call.js';
import { forStaff } from './for-staff.js';

export interface PostRoomParts {
  readonly database: DataSource;
  readonly events: FolioEvents;
  readonly accounts: Accounts;
  readonly ways: Ways;
  readonly outbox: Outbox;
  readonly enclosing: Enclosing;
  readonly returnBoxes: ReturnBoxes;
  /** What the way that the server knows by itself is called. */
  readonly builtIn: string;
  /** Domain of the Message-IDs. */
  readonly domain: string;
}

/** Bytes of a file with reports, and messages in it. */
const RETURNS_BYTES = 25 * 1024 * 1024;
const RETURNS_MOST = 2_000;

/** Conversations that a school may have in so many milliseconds: each waits for somebody else's server. */
const TALKS = { most: 30, per: 10 * 60_000 };

/** What mail leaves through, and what became of it, over all folios of a school. */
export function postRoomRoutes(
  router: Router,
  { database, events, accounts, ways, outbox, enclosing, returnBoxes, builtIn, domain }: PostRoomParts,
): void {
  const { manager } = database;

  answer(router, 'postRoom', ({ schoolId, staffId }) => accounts.room({ schoolId, staffId }));
  answer(router, 'choosePost', async ({ schoolId, staffId, body: { accountId, from } }) => {
    const room = await accounts.choose({ schoolId, staffId }, accountId, from);
    await recordHappening(manager, { schoolId, staffId, folioId: null, kind: 'post-chosen' });
    return room;
  });
  answer(router, 'addMailAccount', async ({ schoolId, staffId, body }) => {
    const account = await accounts.save({ schoolId, staffId }, null, body);
    await recordHappening(manager, { schoolId, staffId, folioId: null, kind: 'account-added' });
    return account;
  });
  answer(router, 'saveMailAccount', async ({ schoolId, staffId, params, body }) => {
    const account = await accounts.save({ schoolId, staffId }, params['accountId']!, body);
    await recordHappening(manager, { schoolId, staffId, folioId: null, kind: 'account-changed' });
    outbox.wake();
    return account;
  });
  answer(router, 'deleteMailAccount', async ({ schoolId, staffId, params }) => {
    const room = await accounts.delete({ schoolId, staffId }, params['accountId']!);
    await recordHappening(manager, { schoolId, staffId, folioId: null, kind: 'account-deleted' });
    return room;
  });

  router.post(
    ['/post-room/accounts/:accountId/test', '/post-room/accounts/:accountId/returns'],
    rateLimit({
      windowMs: TALKS.per,
      limit: TALKS.most,
      store: new DatabaseLimits(database, 'mail-talks'),
      keyGenerator: ({ session }) => session.schoolId ?? 'nobody',
      handler: () => {
        throw new Refusal(
          429,
          'too-many',
          'This was tried often just now. Wait ten minutes, then try again.',
        );
      },
    }),
  );
  answer(router, 'testMailAccount', async ({ schoolId, staffId, params, body }): Promise<MailTest> => {
    const accountId = params['accountId']!;
    await accounts.expectMine({ schoolId, staffId }, accountId);
    const staff = await manager.findOneBy(Staff, { id: staffId, schoolId });
    if (!staff) throw notFound('Your account');
    return talkTo(
      () => ways.find(schoolId, accountId),
      body.send
        ? (way) => ({
            messageId: `<test-${newId()}@${domain}>`,
            to: [{ address: staff.email, name: staff.name }],
            subject: 'Scriptum: the mail account works',
            text: `This message was sent by Scriptum from ${way.address} to try the mail account of ${way.school}.\n`,
            html: '',
            files: [],
          })
        : null,
    );
  });

  answer(router, 'lookForReturns', async ({ schoolId, staffId, params }) => {
    const accountId = params['accountId']!;
    await accounts.expectMine({ schoolId, staffId }, accountId);
    return returnBoxes.look(schoolId, accountId);
  });

  router.post('/post-room/returns', forStaff(raw({ type: () => true, limit: RETURNS_BYTES })));
  answer(router, 'takeReturns', async ({ request, schoolId, staffId }) => {
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    const all = bytes.length === 0 ? [] : messagesIn(bytes);
    if (all.length > RETURNS_MOST)
      throw new Refusal(
        422,
        'file-large',
        `This file holds more than ${RETURNS_MOST.toLocaleString('en')} messages. Take it in in parts.`,
      );
    const folios = new Set<string>();
    const counts = { marked: 0, known: 0, strange: 0 };
    for (const one of all) {
      const taken = await takeReturn(database, schoolId, one);
      if (taken.kind === 'no report') continue;
      counts[taken.kind]++;
      if (taken.kind === 'marked') folios.add(taken.folioId);
    }
    for (const folioId of folios) {
      await recordHappening(manager, { schoolId, staffId, folioId, kind: 'mail-returned' });
      events.tell(folioId, { kind: 'dispatch' });
    }
    if (counts.marked + counts.known + counts.strange === 0)
      throw new Refusal(
        422,
        'no-report',
        'There is no report of mail that came back in this file. Save such a message from the mail program as a file, and choose that.',
      );
    return { messages: all.length, ...counts };
  });
  answer(router, 'mailQueue', ({ schoolId, query }) => searchQueue(manager, schoolId, query, builtIn));
  answer(router, 'messageFile', async ({ response, schoolId, params }) => {
    const { subject, bytes } = await messageFile(
      { database, enclosing, ways },
      schoolId,
      params['messageId']!,
    );
    response.attachment(`${safePart(subject).slice(0, 80) || 'Message'}.eml`);
    response.type('message/rfc822').send(bytes);
  });
  answer(router, 'folioMail', async ({ response, schoolId, params }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    const messages = await manager.countBy(MessageRow, { schoolId, folioId: folio.id });
    if (messages === 0)
      throw new Refusal(404, 'no-mail', 'Nothing of this folio was sent yet, so there is no mail to save.');
    if (messages > MESSAGES_MOST)
      throw new Refusal(
        422,
        'file-large',
        `This folio has more than ${MESSAGES_MOST.toLocaleString('en')} messages. Save them one by one, in the post room.`,
      );
    response.attachment(`${safePart(folio.title) || 'Mail'}.mbox`).type('application/mbox');
    for await (const part of folioMail({ database, enclosing, ways }, schoolId, folio.id)) {
      if (response.destroyed) return;
      if (!response.write(part))
        await new Promise<void>((resolve) => {
          response.once('drain', resolve);
          response.once('close', resolve);
        });
    }
    response.end();
  });

  answer(router, 'dispatchings', async ({ schoolId, params }) => {
    const folio = await findFolio(manager, schoolId, params['folioId']!);
    return { dispatches: await listDispatches(manager, { schoolId, folioId: folio.id }, builtIn) };
  });
  answer(router, 'changeDispatch', async ({ schoolId, staffId, params, body: { to } }) => {
    const folioId = params['folioId']!;
    const place = { schoolId, folioId, staffId, dispatchId: params['dispatchId']! };
    const count = await inTransaction(database, (inside) => changeDispatch(inside, place, to));
    const kinds = {
      stop: 'dispatch-stopped',
      'go on': 'dispatch-goes-on',
      'take back': 'dispatch-taken-back',
    };
    await recordHappening(manager, { schoolId, staffId, folioId, kind: kinds[to], count });
    events.tell(folioId, { kind: 'dispatch' });
    outbox.wake();
    return { dispatches: await listDispatches(manager, { schoolId, folioId }, builtIn) };
  });
}
