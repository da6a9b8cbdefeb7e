import type { MailAccount } from '@scriptum/core/contract';
import { boxSecured, draftOf, emptyAccount, savedOf, secured } from './account-draft';

const draft = {
  ...emptyAccount('office@school.example'),
  name: ' School mail ',
  host: 'smtp.school.example',
  user: 'office',
};

test('ports go with the way of securing the line, unless somebody wrote another one', () => {
  expect(secured(draft, 'tls').port).toBe('465');
  expect(secured(secured(draft, 'tls'), 'starttls').port).toBe('587');
  expect(secured({ ...draft, port: '2525' }, 'tls').port).toBe('2525');
});

test('mail that comes back is fetched as the same user, with the port that goes with its line', () => {
  const fetched = { ...draft, fetched: true, boxHost: ' imap.school.example ', boxFolder: ' ' };
  expect(savedOf(fetched, null)).toMatchObject({
    returns: { host: 'imap.school.example', port: 993, security: 'tls', folder: 'INBOX' },
  });
  expect(boxSecured(fetched, 'starttls')).toMatchObject({ boxSecurity: 'starttls', boxPort: '143' });
  expect(boxSecured({ ...fetched, boxPort: '10143' }, 'starttls').boxPort).toBe('10143');
});

test('what is left blank stays as it is, or has no limit', () => {
  expect(savedOf(draft, null)).toEqual({
    name: 'School mail',
    host: 'smtp.school.example',
    port: 587,
    security: 'starttls',
    user: 'office',
    address: 'office@school.example',
    own: false,
    perMinute: null,
    perDay: null,
    dkim: null,
    returns: null,
  });
  const signed = { ...draft, signed: true, domain: 'school.example', key: 'keep', password: ' p ' };
  expect(savedOf(signed, { version: 3 } as MailAccount)).toMatchObject({
    password: ' p ',
    dkim: { domain: 'school.example', selector: 'scriptum' },
    version: 3,
  });
});

test.each([
  [{ name: ' ' }, /name/],
  [{ host: '' }, /mail server/],
  [{ port: '70000' }, /not the number of a port/],
  [{ port: '5 87' }, /not the number of a port/],
  [{ perMinute: '0' }, /from 1 to 600/],
  [{ perDay: '1.5' }, /from 1 to 1,000,000/],
  [{ signed: true }, /domain/],
  [{ fetched: true }, /server of the mailbox/],
  [{ fetched: true, boxHost: 'imap.x.example', boxPort: '0' }, /not the number of a port/],
  [{ fetched: true, boxHost: 'imap.x.example', user: ' ' }, /opens for a user/],
])('%j is told in a sentence', (more, says) => expect(savedOf({ ...draft, ...more }, null)).toMatch(says));

test('an account is filled in as it is, and saved as it was', () => {
  const account: MailAccount = {
    id: 'a',
    name: 'School mail',
    host: 'smtp.school.example',
    port: 465,
    security: 'tls',
    user: 'office',
    address: 'office@school.example',
    perMinute: 30,
    perDay: 500,
    returns: {
      host: 'imap.school.example',
      port: 993,
      security: 'tls',
      folder: 'Back',
      at: null,
      fault: null,
    },
    owner: null,
    mine: true,
    hasPassword: true,
    dkim: { domain: 'school.example', selector: 's', record: { name: '', text: '' } },
    version: 2,
    fault: null,
    waiting: 0,
    used: 0,
    opensAt: null,
  };
  expect(savedOf(draftOf(account), account)).toEqual({
    name: 'School mail',
    host: 'smtp.school.example',
    port: 465,
    security: 'tls',
    user: 'office',
    address: 'office@school.example',
    own: false,
    perMinute: 30,
    perDay: 500,
    returns: { host: 'imap.school.example', port: 993, security: 'tls', folder: 'Back' },
    dkim: { domain: 'school.example', selector: 's' },
    version: 2,
  });
});
