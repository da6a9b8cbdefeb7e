import { PracticePost } from '@scriptum/server/post/practice-post';
import { createTransport } from 'nodemailer';
import { pino } from 'pino';
import type { DataSource } from 'typeorm';

type Step = 'existsBy' | 'findOneBy' | 'insert';
const gone = Object.assign(new Error('read ECONNRESET'), { code: 'ECONNRESET' });
const full = Object.assign(new Error('Disk full'), { code: 'ER_DISK_FULL', errno: 1021 });

/** What a mail program hears where the database fails at one step. */
async function heard(step: Step | null, error: Error): Promise<{ code: number | null; taken: number }> {
  let taken = 0;
  const manager = Object.fromEntries(
    (['existsBy', 'findOneBy', 'insert'] as const).map((name) => [
      name,
      async () => {
        if (name === step) throw error;
        if (name === 'insert') taken++;
        return name === 'existsBy' ? true : null;
      },
    ]),
  );
  const post = new PracticePost({ manager } as unknown as DataSource, pino({ level: 'silent' }));
  await post.listen(0);
  // The mood of the school is read for the way, too, and is well there.
  const read = manager['findOneBy']!;
  manager['findOneBy'] = async () => null;
  const { url } = await post.wayFor('school');
  manager['findOneBy'] = read;
  const transport = createTransport(url);
  try {
    await transport.sendMail({
      from: 'office@school.example',
      to: 'ada@families.example',
      subject: 'A letter',
      text: 'Dear Ada,',
    });
    return { code: 250, taken };
  } catch (refused) {
    return { code: (refused as { responseCode?: number }).responseCode ?? null, taken };
  } finally {
    transport.close();
    await post.close();
  }
}

// RFC 5321, 4.2.3 (451, 452), and RFC 4954, 6 (454).
test('what goes wrong in the practice post itself is no refusal for good', async () => {
  expect(await heard(null, gone)).toEqual({ code: 250, taken: 1 });
  expect(await heard('existsBy', gone)).toEqual({ code: 454, taken: 0 });
  expect(await heard('findOneBy', gone)).toEqual({ code: 451, taken: 0 });
  expect(await heard('insert', full)).toEqual({ code: 452, taken: 0 });
});

test('where nobody knows whether a message was kept, nothing is said of it', async () => {
  expect(await heard('insert', gone)).toEqual({ code: null, taken: 0 });
});
