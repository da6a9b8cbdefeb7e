import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { personalCode, readCode, shownCode } from '../index.js';

const SEED = '00112233445566778899aabbccddeeff';

test('a code is the first fifty bits of SHA-256, as another library has it, in Crockford’s base 32', () => {
  const signs = '0123456789abcdefghjkmnpqrstvwxyz';
  fc.assert(
    fc.property(fc.stringMatching(/^[0-9a-z]{16}$/), (id) => {
      const hash = createHash('sha256').update(`${SEED} ${id}`).digest('hex');
      const bits = BigInt(`0x${hash}`).toString(2).padStart(256, '0');
      const known = Array.from(
        { length: 10 },
        (_, n) => signs[Number.parseInt(bits.slice(n * 5, n * 5 + 5), 2)],
      ).join('');
      expect(personalCode(SEED, id)).toBe(known);
    }),
  );
});

test('it is read as people write it, and nothing else is', () => {
  fc.assert(
    fc.property(fc.stringMatching(/^[0-9a-z]{16}$/), (id) => {
      const code = personalCode(SEED, id);
      expect(readCode(shownCode(code))).toBe(code);
      expect(readCode(` ${shownCode(code).replace('-', ' – ').replace(/0/g, 'O').replace(/1/g, 'I')} `)).toBe(
        code,
      );
    }),
  );
  for (const none of ['', 'abc', '12345-6789u', '1234567890a', '12345_67890', '../../../..'])
    expect(readCode(none)).toBeNull();
});

test('codes of a year group are all different, and those of another form are others', () => {
  const ids = Array.from({ length: 5000 }, (_, n) => `entry${n}`);
  expect(new Set(ids.map((id) => personalCode(SEED, id))).size).toBe(ids.length);
  expect(personalCode(SEED, 'entry1')).not.toBe(personalCode(SEED.replace('0', '1'), 'entry1'));
});
