import { soughtWords } from './index.js';

test.each([
  ['Łucja  ŻAK', ['lucja', 'zak']],
  ['Sione Tuʻipulotu', ['sione', 'tuipulotu']],
  ['O’Brien-Øre', ['obrien-ore']],
  ['Straße ﬁne', ['strasse', 'fine']],
  ['陳美玲 محمد', ['陳美玲', 'محمد']],
  ['  ', []],
])('%s is looked for as %j', (text, words) => {
  expect(soughtWords(text)).toEqual(words);
});
