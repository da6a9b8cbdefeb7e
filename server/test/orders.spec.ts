import type {
  Folio,
  MailList,
  OrderLine,
  OrderList,
  OrderNext,
  OrderWork,
  OrderWorkList,
  ProblemDetails,
} from '@scriptum/core/contract';
import { emptyOrder, type Order } from '@scriptum/core/order';
import { YesLinks } from '@scriptum/server/order/yes-links';
import { OrderWorkRow, StandingOrderRow } from '@scriptum/server/store/entities/orders';
import { School, Staff } from '@scriptum/server/store/entities/people';
import { MessageRow, PressRunRow } from '@scriptum/server/store/entities/register';
import { newId } from '@scriptum/server/store/id';
import { In } from 'typeorm';
import {
  letterOf,
  newSchool,
  noteOf,
  startTestServer,
  writingPath,
  type Client,
  type TestServer,
} from './testing/school.js';
import { answerAt, FORM_KEY, letteredForm, ticketFor } from './testing/web-form.js';

let server: TestServer;
let client: Client;
beforeAll(async () => {
  server = await startTestServer({ SCRIPTUM_SECRET_KEY: FORM_KEY });
  client = await newSchool(server);
});
afterAll(() => server.close());

const SENDS: Order = { ...emptyOrder('Thanks'), then: { kind: 'send' } };
const ASKS = emptyOrder('Asks first');
/** At half past three on each day of the week. */
const DAILY: Order = {
  ...SENDS,
  name: 'Daily',
  when: { kind: 'weekly', days: [1, 2, 3, 4, 5, 6, 7], at: ['15:30'] },
};

async function orderIn(folio: Folio, order: Order, isOn = true, by = client): Promise<OrderLine> {
  const id = newId();
  const added = await by.send<OrderList & ProblemDetails>('POST', `/folios/${folio.id}/orders`, {
    id,
    order,
  });
  expect([added.status, added.body.detail]).toEqual([200, undefined]);
  const put = `/folios/${folio.id}/orders/${id}/on`;
  const { body } = isOn ? await by.send<OrderList>('PUT', put, { isOn }) : added;
  return body.orders.find((one) => one.id === id)!;
}

const works = async (folio: Folio, order: OrderLine, by = client): Promise<OrderWork[]> =>
  (await by.get<OrderWorkList>(`/folios/${folio.id}/orders/${order.id}/work`)).work;
const states = async (folio: Folio, order: OrderLine): Promise<string[]> =>
  (await works(folio, order)).map(({ learner, state }) => `${learner} ${state}`).sort();

/** Waits until nothing is to be done any more, and mail has left. */
async function settled(folio: Folio, at = server): Promise<void> {
  const { manager } = at.running.database;
  const open = { folioId: folio.id, state: In(['owed', 'pressing', 'said yes']) };
  const leaving = { folioId: folio.id, state: In(['queued', 'sending']) };
  while ((await manager.existsBy(OrderWorkRow, open)) || (await manager.existsBy(MessageRow, leaving)))
    await new Promise((resolve) => setTimeout(resolve, 40));
}

/** Lets the time of an order come. */
async function come(order: OrderLine, ago = 0): Promise<void> {
  const nextAt = new Date(Date.now() - ago);
  await server.running.database.manager.update(StandingOrderRow, { id: order.id }, { nextAt });
  for (;;) {
    const row = await server.running.database.manager.findOneByOrFail(StandingOrderRow, { id: order.id });
    if (row.nextAt! > new Date()) return;
    await new Promise((resolve) => setTimeout(resolve, 40));
  }
}

const inbox = async (mailbox: string, by = client): Promise<MailList['messages']> =>
  (await by.get<MailList>(`/practice-post/messages?mailbox=${encodeURIComponent(mailbox)}`)).messages;

describe('on answers', () => {
  test('each is pressed and sent once, and nobody who answered before', async () => {
    const form = await letteredForm(client);
    await answerAt(server, form, { name01: 'Early', email1: 'early@families.example' });
    const order = await orderIn(form.folio, SENDS);
    const ticket = ticketFor(form.token);
    await answerAt(server, form, { name01: 'Ada', email1: 'ada@families.example' }, ticket);
    await answerAt(server, form, { name01: 'Ada', email1: 'ada@families.example' }, ticket);
    await answerAt(server, form, { name01: 'Bo', email1: 'bo@families.example' });
    await settled(form.folio);
    expect(await states(form.folio, order)).toEqual(['Ada sent', 'Bo sent']);
    expect(await inbox('ada@families.example')).toMatchObject([{ subject: 'Thank you', attachments: 1 }]);
    expect(await inbox('bo@families.example')).toHaveLength(1);
    expect(await inbox('early@families.example')).toEqual([]);
    const { papers } = await client.register(form.folio.id);
    expect(papers.map(({ learner, state }) => `${learner} ${state}`)).toEqual([
      'Ada dispatched',
      'Bo dispatched',
    ]);
    const { runs } = await client.get<{ runs: { by: null; orders: string[] }[] }>(
      `/folios/${form.folio.id}/runs`,
    );
    expect(runs.every(({ by, orders }) => by === null && orders[0] === 'Thanks')).toBe(true);
  });

  test('who answered before is taken by somebody’s word, who was shown how many', async () => {
    const form = await letteredForm(client);
    await answerAt(server, form, { name01: 'Early', email1: 'first@families.example' });
    const order = await orderIn(form.folio, SENDS);
    const place = `/folios/${form.folio.id}/orders/${order.id}`;
    const early = (await client.get<Folio>(`/folios/${form.folio.id}`)).roll.entries[0]!.id;
    expect(await client.get<OrderNext>(`${place}/next`)).toEqual({ takes: [early], passed: [] });
    expect(await client.send('POST', `${place}/run`, { count: 2 })).toMatchObject({
      status: 409,
      body: { code: 'plan-changed' },
    });
    expect((await client.send('POST', `${place}/run`, { count: 1 })).body).toEqual({ owed: 1 });
    await settled(form.folio);
    expect(await states(form.folio, order)).toEqual(['Early sent']);
    expect((await client.send('POST', `${place}/run`, { count: 0 })).body).toEqual({ owed: 0 });
    expect(await client.get<OrderNext>(`${place}/next`)).toEqual({
      takes: [],
      passed: [{ why: 'done already, and nothing is new', entryIds: [early] }],
    });
  });

  test('the order of another form, one for changed answers alone, and one that is off do nothing', async () => {
    const form = await letteredForm(client);
    const orders = [
      await orderIn(form.folio, { ...SENDS, when: { kind: 'answer', which: 'new', formId: 'anotherform' } }),
      await orderIn(form.folio, { ...SENDS, when: { kind: 'answer', which: 'changed', formId: null } }),
      await orderIn(form.folio, SENDS, false),
    ];
    await answerAt(server, form, { name01: 'Ada', email1: 'nothing@families.example' });
    await settled(form.folio);
    for (const order of orders) expect(await states(form.folio, order)).toEqual([]);
    expect(await inbox('nothing@families.example')).toEqual([]);
  });

  test('who is not meant by its condition is left, and why is told', async () => {
    const form = await letteredForm(client);
    const order = await orderIn(form.folio, {
      ...SENDS,
      if: { columnId: 'club01', is: 'equal', values: ['Choir'] },
    });
    await answerAt(server, form, { name01: 'Ada', email1: 'a@choir.example', club01: 'choir1' });
    await answerAt(server, form, { name01: 'Bo', email1: 'b@choir.example', club01: 'chess1' });
    await settled(form.folio);
    expect(await states(form.folio, order)).toEqual(['Ada sent', 'Bo left']);
    expect((await works(form.folio, order)).find(({ learner }) => learner === 'Bo')?.why).toContain(
      'condition',
    );
    expect(await inbox('b@choir.example')).toEqual([]);
  });

  test('a condition on a column that is gone blocks, and takes nobody for one who is not meant', async () => {
    const form = await letteredForm(client);
    const gone = { ...SENDS, if: { columnId: 'gonegone', is: 'unequal' as const, values: ['x'] } };
    const order = await orderIn(form.folio, gone, false);
    expect(
      await client.send('PUT', `/folios/${form.folio.id}/orders/${order.id}/on`, { isOn: true }),
    ).toMatchObject({
      status: 422,
      body: { code: 'column-gone' },
    });
    // It was there when somebody switched it on.
    const { manager } = server.running.database;
    await manager.update(StandingOrderRow, { id: order.id }, { isOn: true, onAt: new Date() });
    await answerAt(server, form, { name01: 'Ada', email1: 'ada@gone.example' });
    while (!(await manager.existsBy(OrderWorkRow, { orderId: order.id, state: 'blocked' })))
      await new Promise((resolve) => setTimeout(resolve, 40));
    expect((await works(form.folio, order))[0]!.why).toContain('a column that is gone');
    expect(await inbox('ada@gone.example')).toEqual([]);
  });

  test('so many a day, and the others the day after', async () => {
    const form = await letteredForm(client);
    const order = await orderIn(form.folio, { ...SENDS, most: 2 });
    for (const name of ['A', 'B', 'C'])
      await answerAt(server, form, { name01: name, email1: `${name.toLowerCase()}@limit.example` });
    const { manager } = server.running.database;
    while ((await manager.countBy(OrderWorkRow, { orderId: order.id, state: 'sent' })) < 2)
      await new Promise((resolve) => setTimeout(resolve, 40));
    expect(await states(form.folio, order)).toEqual(['A sent', 'B sent', 'C owed']);
    const [waits] = await manager.findBy(OrderWorkRow, { orderId: order.id, state: 'owed' });
    expect(waits!.notBefore.toISOString()).toMatch(/T00:00:00.000Z$/);
    // A day later.
    await manager.query('UPDATE order_work SET startedAt = startedAt - INTERVAL 1 DAY WHERE orderId = ?', [
      order.id,
    ]);
    await manager.update(OrderWorkRow, { id: waits!.id }, { notBefore: new Date() });
    await settled(form.folio);
    expect(await states(form.folio, order)).toEqual(['A sent', 'B sent', 'C sent']);
  });
});

describe('what is wrong', () => {
  test('stops that learner alone, tells the owner once a day, and goes on by itself once it is mended', async () => {
    const person = await newSchool(server);
    const form = await letteredForm(person);
    const order = await orderIn(form.folio, SENDS, true, person);
    await answerAt(server, form, { name01: 'Ada', email1: 'ada@mended.example' });
    await answerAt(server, form, { name01: 'Bo' });
    await answerAt(server, form, { name01: 'Cy' });
    await settled(form.folio);
    const list = await works(form.folio, order, person);
    expect(list.map(({ learner, state }) => `${learner} ${state}`).sort()).toEqual([
      'Ada sent',
      'Bo left',
      'Cy left',
    ]);
    expect(list.find(({ learner }) => learner === 'Bo')!.why).toContain('No email address');
    const { manager } = server.running.database;
    const { schoolId } = await manager.findOneByOrFail(StandingOrderRow, { id: order.id });
    const { email } = await manager.findOneByOrFail(Staff, { schoolId });
    let told = await inbox(email, person);
    for (; told.length === 0; told = await inbox(email, person))
      await new Promise((resolve) => setTimeout(resolve, 40));
    expect(told).toHaveLength(1);
    expect(told[0]!.subject).toMatch(/^Nothing left for [12] learners?: Sign-up$/);
  });

  test('a letter that cannot be pressed blocks, and what was blocked goes on', async () => {
    const form = await letteredForm(client);
    const folio = await client.get<Folio>(`/folios/${form.folio.id}`);
    const letter = letterOf(folio);
    const gone = letter.content.fields.map((field) => ({ ...field, columnId: null }));
    const saved = await client.send<{ version: number }>('PUT', writingPath(folio, 'letter'), {
      version: letter.version,
      kind: 'letter',
      content: { ...letter.content, fields: gone },
    });
    const order = await orderIn(folio, SENDS);
    await answerAt(server, form, { name01: 'Ada', email1: 'ada@blocked.example' });
    const { manager } = server.running.database;
    while (!(await manager.existsBy(OrderWorkRow, { orderId: order.id, state: 'blocked' })))
      await new Promise((resolve) => setTimeout(resolve, 40));
    expect((await works(folio, order))[0]!.why).toBeTruthy();
    expect(await inbox('ada@blocked.example')).toEqual([]);
    // A server is just looking at the folio, by what was there before.
    const slice = `order${folio.id}`;
    await manager.query(
      `INSERT INTO slice (id, schoolId, folioId, kind, jobId, lane, turn, size, state, claim, claimedUntil)
       SELECT ?, schoolId, folioId, 'order', ?, 'quick', 0, 1, 'claimed', 'another', UTC_TIMESTAMP(3) + INTERVAL 1 HOUR
         FROM standing_order WHERE id = ?
       ON DUPLICATE KEY UPDATE state = 'claimed', claim = 'another', claimedUntil = UTC_TIMESTAMP(3) + INTERVAL 1 HOUR`,
      [slice, slice, order.id],
    );
    await client.send('PUT', writingPath(folio, 'letter'), {
      version: saved.body.version,
      kind: 'letter',
      content: letter.content,
    });
    while (!(await manager.existsBy(OrderWorkRow, { orderId: order.id, state: 'owed' })))
      await new Promise((resolve) => setTimeout(resolve, 40));
    await manager.query('DELETE FROM slice WHERE id = ?', [slice]);
    while (!(await manager.existsBy(OrderWorkRow, { orderId: order.id, state: 'sent' })))
      await new Promise((resolve) => setTimeout(resolve, 40));
    await settled(folio);
    expect(await inbox('ada@blocked.example')).toHaveLength(1);
  });
});

describe('once somebody says yes', () => {
  const waiting = async (folio: Folio, order: OrderLine, count: number): Promise<OrderWork[]> => {
    for (;;) {
      const asked = (await works(folio, order)).filter(({ state }) => state === 'asked');
      if (asked.length === count) return asked;
      await new Promise((resolve) => setTimeout(resolve, 40));
    }
  };

  test('yes sends, no does not, and each is said once', async () => {
    const form = await letteredForm(client);
    const order = await orderIn(form.folio, ASKS);
    await answerAt(server, form, { name01: 'Ada', email1: 'ada@asked.example' });
    await answerAt(server, form, { name01: 'Bo', email1: 'bo@asked.example' });
    const asked = await waiting(form.folio, order, 2);
    expect(asked.every(({ until, papers }) => until !== null && papers.length === 1)).toBe(true);
    expect(await inbox('ada@asked.example')).toEqual([]);
    const ids = (name: string): string[] =>
      asked.filter(({ learner }) => learner === name).map(({ id }) => id);
    const say = (workIds: string[], yes: boolean) =>
      client.send('POST', `/folios/${form.folio.id}/orders/${order.id}/answer`, { workIds, yes });
    expect((await say(ids('Ada'), true)).body).toEqual({ done: 1, passedOver: 0 });
    expect((await say(ids('Bo'), false)).body).toEqual({ done: 1, passedOver: 0 });
    expect((await say([...ids('Ada'), ...ids('Bo')], true)).body).toEqual({ done: 0, passedOver: 2 });
    await settled(form.folio);
    expect(await states(form.folio, order)).toEqual(['Ada sent', 'Bo left']);
    expect(await inbox('ada@asked.example')).toHaveLength(1);
    expect(await inbox('bo@asked.example')).toEqual([]);
    expect((await works(form.folio, order)).map(({ by }) => by)).toEqual(['Test', 'Test']);
  });

  test('nobody is asked about a learner whose family cannot be written to', async () => {
    const form = await letteredForm(client);
    const order = await orderIn(form.folio, ASKS);
    await answerAt(server, form, { name01: 'Ada', email1: 'ada@reached.example' });
    await answerAt(server, form, { name01: 'Bo' });
    await waiting(form.folio, order, 1);
    await settled(form.folio);
    expect(await states(form.folio, order)).toEqual(['Ada asked', 'Bo left']);
    const bo = (await works(form.folio, order)).find(({ learner }) => learner === 'Bo')!;
    expect(bo.why).toBe('No email address. The paper lies in the register, to be printed.');
  });

  test('a yes stays one while something else is mended', async () => {
    const form = await letteredForm(client);
    const order = await orderIn(form.folio, ASKS);
    await answerAt(server, form, { name01: 'Ada', email1: 'ada@stays.example' });
    const [asked] = await waiting(form.folio, order, 1);
    const note = noteOf(await client.get<Folio>(`/folios/${form.folio.id}`));
    const save = (content: object, version: number) =>
      client.send<{ version: number }>('PUT', writingPath(form.folio, 'note'), {
        version,
        kind: 'note',
        content,
      });
    const { body } = await save({ ...note.content, subject: [] }, note.version);
    await client.send('POST', `/folios/${form.folio.id}/orders/${order.id}/answer`, {
      workIds: [asked!.id],
      yes: true,
    });
    const { manager } = server.running.database;
    while (!(await manager.existsBy(OrderWorkRow, { orderId: order.id, state: 'blocked' })))
      await new Promise((resolve) => setTimeout(resolve, 40));
    await save(note.content, body.version);
    while (!(await manager.existsBy(OrderWorkRow, { orderId: order.id, state: 'sent' })))
      await new Promise((resolve) => setTimeout(resolve, 40));
    await settled(form.folio);
    expect(await inbox('ada@stays.example')).toHaveLength(1);
  });

  test('what was changed meanwhile is pressed and asked for anew', async () => {
    const form = await letteredForm(client);
    const order = await orderIn(form.folio, ASKS);
    await answerAt(server, form, { name01: 'Adda', email1: 'ada@anew.example' });
    const [asked] = await waiting(form.folio, order, 1);
    await client.send('PATCH', `/folios/${form.folio.id}/roll`, {
      cells: [{ entryId: asked!.entryId, columnId: 'name01', text: 'Ada' }],
    });
    await client.send('POST', `/folios/${form.folio.id}/orders/${order.id}/answer`, {
      workIds: [asked!.id],
      yes: true,
    });
    const { manager } = server.running.database;
    while (!(await manager.existsBy(OrderWorkRow, { orderId: order.id, state: 'asked', tries: 1 })))
      await new Promise((resolve) => setTimeout(resolve, 40));
    expect(await inbox('ada@anew.example')).toEqual([]);
    const [again] = await waiting(form.folio, order, 1);
    expect(again!.learner).toBe('Ada');
    await client.send('POST', `/folios/${form.folio.id}/orders/${order.id}/answer`, {
      workIds: [again!.id],
      yes: true,
    });
    await settled(form.folio);
    expect(await inbox('ada@anew.example')).toHaveLength(1);
  });

  test.each([
    ['keep', 'left', 0],
    ['send', 'sent', 1],
  ] as const)('where nobody says a word in time: %s', async (lapse, state, mails) => {
    const form = await letteredForm(client);
    const order = await orderIn(form.folio, {
      ...ASKS,
      then: { kind: 'ask', staff: [], hours: 1, else: lapse },
    });
    await answerAt(server, form, { name01: 'Ada', email1: `ada@${lapse}.example` });
    await waiting(form.folio, order, 1);
    const { manager } = server.running.database;
    await manager.update(OrderWorkRow, { orderId: order.id }, { until: new Date() });
    while (!(await manager.existsBy(OrderWorkRow, { orderId: order.id, state })))
      await new Promise((resolve) => setTimeout(resolve, 40));
    await settled(form.folio);
    expect(await inbox(`ada@${lapse}.example`)).toHaveLength(mails);
  });

  test('an order that is switched off sends nothing by itself any more, also what was begun', async () => {
    const form = await letteredForm(client);
    const order = await orderIn(form.folio, {
      ...ASKS,
      then: { kind: 'ask', staff: [], hours: 1, else: 'send' },
    });
    await answerAt(server, form, { name01: 'Ada', email1: 'ada@off.example' });
    await waiting(form.folio, order, 1);
    const put = `/folios/${form.folio.id}/orders/${order.id}`;
    await client.send('PUT', `${put}/on`, { isOn: false });
    const { manager } = server.running.database;
    // Its time without a word has run out, and a paper of it was just being pressed.
    await manager.update(OrderWorkRow, { orderId: order.id }, { until: new Date() });
    const [asked] = await manager.findBy(OrderWorkRow, { orderId: order.id });
    const second = {
      ...asked!,
      id: newId(),
      version: 'x',
      state: 'pressing' as const,
      runId: newId(),
      until: null,
    };
    await manager.insert(OrderWorkRow, second);
    while (!(await manager.existsBy(OrderWorkRow, { id: second.id, state: 'owed' })))
      await new Promise((resolve) => setTimeout(resolve, 40));
    expect(await manager.countBy(OrderWorkRow, { orderId: order.id, state: 'asked' })).toBe(1);
    expect(await inbox('ada@off.example')).toEqual([]);
    await client.send('PUT', `${put}/on`, { isOn: true });
    await settled(form.folio);
    expect(await inbox('ada@off.example')).toHaveLength(1);
  });

  test('an order that sends by itself waits where the school wants papers to be cleared', async () => {
    const person = await newSchool(server);
    const form = await letteredForm(person);
    const { manager } = server.running.database;
    const order = await orderIn(form.folio, SENDS, true, person);
    const { schoolId } = await manager.findOneByOrFail(StandingOrderRow, { id: order.id });
    await manager.update(School, { id: schoolId }, { clearing: 'cleared' as never });
    await answerAt(server, form, { name01: 'Ada', email1: 'ada@clear.example' });
    while (!(await manager.existsBy(OrderWorkRow, { orderId: order.id, state: 'asked' })))
      await new Promise((resolve) => setTimeout(resolve, 40));
    expect(await inbox('ada@clear.example', person)).toEqual([]);
  });

  test('a link in mail shows what waits, and says yes by a button alone', async () => {
    const person = await newSchool(server);
    const form = await letteredForm(person);
    const order = await orderIn(form.folio, ASKS, true, person);
    await answerAt(server, form, { name01: '<b>Ada</b>', email1: 'ada@link.example' });
    const { manager } = server.running.database;
    const row = await manager.findOneByOrFail(StandingOrderRow, { id: order.id });
    const { email, id: staffId } = await manager.findOneByOrFail(Staff, { schoolId: row.schoolId });
    let told = await inbox(email, person);
    for (; told.length === 0; told = await inbox(email, person))
      await new Promise((resolve) => setTimeout(resolve, 40));
    const mail = await person.get<{ text: string }>(`/practice-post/messages/${told[0]!.id}`);
    const link = /http\S+\/y\/\S+/.exec(mail.text)![0];
    const page = await (await fetch(link)).text();
    expect(page).toContain('1 learner’s papers wait for a yes');
    expect(page).toContain('&#60;b&#62;Ada&#60;/b&#62;');
    const [, paper] = /href="(\/y\/[^"]+)"/.exec(page)!;
    const file = await fetch(`${server.running.url}${paper}`);
    expect(file.headers.get('content-type')).toBe('application/pdf');
    const [, ids] = /name="works" value="([^"]+)"/.exec(page)!;
    const said = await fetch(link, {
      method: 'POST',
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
      body: `say=yes&works=${ids}`,
    });
    expect(await said.text()).toContain('Yes: 1 learner’s papers leave now.');
    await settled(form.folio);
    expect(await inbox('ada@link.example', person)).toHaveLength(1);
    // A paper is shown while it waits alone, and links of others, or of a person who is gone, show nothing.
    expect((await fetch(`${server.running.url}${paper}`)).status).toBe(404);
    const links = new YesLinks(FORM_KEY);
    const stranger = new YesLinks('another key').of({ orderId: order.id, staffId });
    const old = links.of({ orderId: order.id, staffId }, Date.now() - 61 * 86_400_000);
    const other = links.of({ orderId: order.id, staffId: newId() });
    for (const one of [stranger, old, other, 'x', `${link.split('/').at(-1)!}0`])
      expect((await fetch(`${server.running.url}/y/${one}`)).status).toBe(404);
  });
});

describe('at set times', () => {
  const roll = 'Name,Mail,Back on\nAda,ada@times.example,2026-11-20\nBo,bo@times.example,2099-01-01';
  const folioOf = (sheet = roll): Promise<Folio> =>
    client.folioOf(sheet, { letter: ['Dear {{Name}}'], subject: 'News', body: 'For {{Name}}' });
  const columnOf = ({ roll: { columns } }: Folio, title: string): string =>
    columns.find((column) => column.title === title)!.id;

  test('it acts for everybody once, and again for whom something is new', async () => {
    const folio = await folioOf();
    const order = await orderIn(folio, DAILY);
    expect(order.nextAt).not.toBeNull();
    expect(order.then).toHaveLength(3);
    await come(order);
    await settled(folio);
    expect(await states(folio, order)).toEqual(['Ada sent', 'Bo sent']);
    await come(order);
    await settled(folio);
    expect(await states(folio, order)).toEqual(['Ada sent', 'Bo sent']);
    const [ada] = folio.roll.entries;
    await client.send('PATCH', `/folios/${folio.id}/roll`, {
      cells: [{ entryId: ada!.id, columnId: columnOf(folio, 'Name'), text: 'Ada Lark' }],
    });
    await come(order);
    await settled(folio);
    expect(await states(folio, order)).toEqual(['Ada Lark sent', 'Ada Lark sent', 'Bo sent']);
    expect(await inbox('ada@times.example')).toHaveLength(2);
    expect(await inbox('bo@times.example')).toHaveLength(1);
  });

  test.each([
    ['once', ['Ada sent']],
    ['skip', []],
  ] as const)('what was missed while no server ran: %s', async (missed, expected) => {
    const folio = await folioOf('Name,Mail\nAda,ada@missed.example');
    const order = await orderIn(folio, { ...DAILY, missed });
    // The time that passed two days and an hour ago; and it is not just now that another one comes.
    const hour = new Date(Date.now() - 7_200_000).toISOString().slice(11, 16);
    const { manager } = server.running.database;
    const { content } = await manager.findOneByOrFail(StandingOrderRow, { id: order.id });
    await manager.update(
      StandingOrderRow,
      { id: order.id },
      { content: { ...content, when: { kind: 'weekly', days: [1, 2, 3, 4, 5, 6, 7], at: [hour] } } },
    );
    await come(order, 2 * 86_400_000);
    await settled(folio);
    expect(await states(folio, order)).toEqual(expected);
  });

  test('the day that stands in a row: once, and not those that came before it was on', async () => {
    const folio = await folioOf();
    const today = new Date().toISOString().slice(0, 10);
    const columnId = columnOf(folio, 'Back on');
    const order = await orderIn(folio, {
      ...SENDS,
      when: { kind: 'day', columnId, after: -1, at: '00:00' },
    });
    await come(order);
    await settled(folio);
    expect(await states(folio, order)).toEqual([]);
    const tomorrow = new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);
    const [, bo] = folio.roll.entries;
    await client.send('PATCH', `/folios/${folio.id}/roll`, {
      cells: [{ entryId: bo!.id, columnId, text: tomorrow }],
    });
    await come(order);
    await come(order);
    await settled(folio);
    expect(await states(folio, order)).toEqual(['Bo sent']);
    const { passed, takes } = await client.get<OrderNext>(`/folios/${folio.id}/orders/${order.id}/next`);
    expect(passed).toEqual([{ why: 'done already, and nothing is new', entryIds: [bo!.id] }]);
    // Ada's day has come long ago: by somebody's word alone.
    expect(takes).toEqual([folio.roll.entries[0]!.id]);
    expect(today < tomorrow).toBe(true);
  });

  test('it waits while somebody presses, and is not begun with twice by two servers', async () => {
    const folio = await folioOf('Name,Mail\nAda,ada@two.example');
    const order = await orderIn(folio, DAILY);
    const { manager } = server.running.database;
    const run = {
      id: newId(),
      schoolId: (await manager.findOneByOrFail(StandingOrderRow, { id: order.id })).schoolId,
      folioId: folio.id,
      staffId: null,
      state: 'running' as const,
      total: 1,
      asked: null,
      letterheadVersion: null,
      startedAt: new Date(),
      finishedAt: null,
    };
    await manager.insert(PressRunRow, run);
    await manager.query(
      `INSERT INTO slice (id, schoolId, folioId, kind, jobId, lane, turn, size, state, claim, claimedUntil)
       VALUES (?, ?, ?, 'press', ?, 'bulk', 0, 1, 'claimed', 'another', UTC_TIMESTAMP(3) + INTERVAL 1 HOUR)`,
      [newId(), run.schoolId, folio.id, run.id],
    );
    await come(order);
    expect(await states(folio, order)).toEqual(['Ada owed']);
    await manager.delete(PressRunRow, { id: run.id });
    const second = await startTestServer({ SCRIPTUM_SECRET_KEY: FORM_KEY }, server.databaseUrl);
    await settled(folio);
    await second.close();
    expect(await states(folio, order)).toEqual(['Ada sent']);
    expect(await inbox('ada@two.example')).toHaveLength(1);
  });
});

test('what is changed: while it is off alone, upon what was seen, by the school alone', async () => {
  const folio = await client.folioOf('Name\nAda', { letter: ['{{Name}}'] });
  const order = await orderIn(folio, SENDS);
  const place = `/folios/${folio.id}/orders/${order.id}`;
  const change = { order: { ...SENDS, name: 'Other' }, version: 1 };
  expect(await client.send('PUT', place, change)).toMatchObject({ status: 409, body: { code: 'order-on' } });
  await client.send('PUT', `${place}/on`, { isOn: false });
  expect((await client.send('PUT', place, change)).status).toBe(200);
  // Sent once more, as where its answer was lost.
  expect((await client.send('PUT', place, change)).status).toBe(200);
  expect(await client.send('PUT', place, { ...change, order: SENDS })).toMatchObject({
    status: 409,
    body: { code: 'not-newest' },
  });
  expect((await client.send('PUT', place, { order: { ...SENDS, name: '' }, version: 2 })).status).toBe(400);
  const stranger = await newSchool(server);
  const staff = await server.running.database.manager.find(Staff, { take: 50 });
  const { schoolId } = await server.running.database.manager.findOneByOrFail(StandingOrderRow, {
    id: order.id,
  });
  const other = staff.find((one) => one.schoolId !== schoolId)!;
  expect(
    await client.send('PUT', place, {
      order: { ...SENDS, then: { kind: 'ask', staff: [other.id], hours: 1, else: 'keep' } },
      version: 2,
    }),
  ).toMatchObject({ status: 404 });
  for (const [method, path, body] of [
    ['GET', `/folios/${folio.id}/orders`],
    ['POST', `/folios/${folio.id}/orders`, { id: newId(), order: SENDS }],
    ['PUT', place, change],
    ['PUT', `${place}/on`, { isOn: true }],
    ['GET', `${place}/next`],
    ['POST', `${place}/run`, { count: 0 }],
    ['GET', `${place}/work`],
    ['POST', `${place}/answer`, { workIds: [newId()], yes: true }],
    ['DELETE', place],
    ['POST', `${place}/restore`],
  ] as const)
    expect([method, path, (await stranger.send(method, path, body)).status]).toEqual([method, path, 404]);
  const { body } = await client.send<OrderList>('DELETE', place);
  expect(body.orders).toEqual([]);
  const back = await client.send<OrderList>('POST', `${place}/restore`);
  expect(back.body.orders).toMatchObject([{ id: order.id, isOn: false, order: { name: 'Other' } }]);
});
