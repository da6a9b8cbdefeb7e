import { readdirSync, readFileSync } from 'node:fs';
import { ENGLISH } from '@scriptum/core/sentences';

test('every sentence of the catalogue is said somewhere', () => {
  const files = ['core/src', 'server/src', 'web/src'].flatMap((folder) =>
    readdirSync(new URL(`../../${folder}`, import.meta.url), { recursive: true, encoding: 'utf8' })
      .filter((name) => /\.ts$/.test(name) && !/\.spec\.ts$|sentences\/english/.test(name))
      .map((name) => readFileSync(new URL(`../../${folder}/${name}`, import.meta.url), 'utf8')),
  );
  const source = files.join('\n');
  expect(Object.keys(ENGLISH).filter((code) => !source.includes(`'${code}'`))).toEqual([]);
});
