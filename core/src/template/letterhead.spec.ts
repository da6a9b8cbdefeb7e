import { dressed, emptyLetter, emptyLetterhead, Letterhead, picturesOfDress, type Letter } from './index.js';

const house: Letterhead = {
  ...emptyLetterhead('Saltmarsh School'),
  crest: { asset: 'crest', height: 20, alt: 'Crest' },
  looks: { family: 'Lora', headings: 'Cinzel', headingColour: '#112233' },
  signOffs: [
    {
      id: 'head',
      name: 'Ada Holm',
      role: 'Head',
      picture: { asset: 'scan', height: 12 },
      family: 'Great Vibes',
    },
    {
      id: 'other',
      name: 'Bo Lind',
      role: '',
      picture: { asset: 'scan2', height: 12 },
      family: 'Great Vibes',
    },
  ],
};
const letter = (part: Partial<Letter>, ...signing: string[]): Letter => ({
  ...emptyLetter('T'),
  ...part,
  body: {
    type: 'doc',
    content: signing.map((signOffId) => ({ type: 'signOff', attrs: { signOffId } })),
  },
});

test('what a school begins with is a letterhead', () => {
  expect(Letterhead.safeParse(emptyLetterhead('S')).success).toBe(true);
  expect(emptyLetterhead('x'.repeat(200)).name.text).toHaveLength(120);
});

test('a letter that takes nothing of it stays the same, and so does each where there is none', () => {
  const plain = letter({});
  expect(dressed(plain, house)).toBe(plain);
  const asking = letter({ letterhead: { print: 'printed', looks: true } }, 'head');
  expect(dressed(asking, null)).toBe(asking);
});

test('it takes what it asks for: the head, the looks, and those who sign in it', () => {
  const printed = dressed(letter({ letterhead: { print: 'printed', looks: false } }), house);
  expect(printed.font.family).toBe('Source Serif 4');
  expect(printed.dress).toMatchObject({ head: { print: 'printed', layout: 'centred' }, signOffs: [] });
  const looks = dressed(letter({ letterhead: { print: 'none', looks: true } }), house);
  expect(looks).toMatchObject({
    font: { family: 'Lora', size: 11 },
    headings: { family: 'Cinzel', colour: '#112233' },
    dress: { head: null },
  });
  const signed = dressed(letter({}, 'head', 'gone'), house);
  expect(signed.dress?.signOffs.map(({ id }) => id)).toEqual(['head']);
});

test('what it does not take changes nothing of it: other sign-offs, colours to choose, looks that it has not', () => {
  const asking = letter({ letterhead: { print: 'printed', looks: false } }, 'head');
  const other: Letterhead = {
    ...house,
    colours: [{ name: 'Ours', value: '#445566' }],
    looks: { ...house.looks, family: 'Work Sans' },
    signOffs: [house.signOffs[0]!],
  };
  expect(dressed(asking, other)).toEqual(dressed(asking, house));
  const renamed = { ...house, name: { ...house.name, text: 'Saltmarsh Academy' } };
  expect(dressed(asking, renamed)).not.toEqual(dressed(asking, house));
});

test('its pictures are those that are printed', () => {
  const of = (print: 'printed' | 'room', ...signing: string[]) =>
    picturesOfDress(dressed(letter({ letterhead: { print, looks: false } }, ...signing), house).dress!);
  expect(of('printed', 'head')).toEqual(['crest', 'scan']);
  // Pre-printed paper has its own crest.
  expect(of('room', 'head')).toEqual(['scan']);
});
