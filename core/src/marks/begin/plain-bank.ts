import type { Worked } from '../../column/index.js';

/** A few remarks that show how the words change. */
export function plainBank(newId: () => string): Extract<Worked, { kind: 'remark' }>['bank'] {
  const rest = { subject: '', tone: '', language: 'en' };
  return [
    {
      id: newId(),
      parts: [
        { word: 'name' },
        { text: ' has had an excellent term. ' },
        { word: 'they' },
        { text: ' ' },
        { word: 'are' },
        { text: ' ready for harder work.' },
      ],
      from: '80',
      to: null,
      ...rest,
    },
    {
      id: newId(),
      parts: [
        { word: 'name' },
        { text: ' work' },
        { word: 's' },
        { text: ' steadily, and ' },
        { word: 'their' },
        { text: ' understanding grows.' },
      ],
      from: '50',
      to: '79.9',
      ...rest,
    },
    {
      id: newId(),
      parts: [
        { word: 'name' },
        { text: ' need' },
        { word: 's' },
        { text: ' more practice. Please look through ' },
        { word: 'their' },
        { text: ' work together at home.' },
      ],
      from: null,
      to: '49.9',
      ...rest,
    },
  ];
}
