import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { Sentence } from './sentence';
import { optionsFor, type SentenceChange, type SentencePart } from './sentence-piece';

const column: SentencePart = {
  id: 'column',
  label: 'the column',
  text: 'Name',
  value: 'name',
  options: ['Name', 'Näme', 'Mark', 'Class', 'Club', 'First name', 'House', 'Year'].map((label) => ({
    value: label.toLowerCase(),
    label,
  })),
};
const words: SentencePart = {
  id: 'words',
  label: 'the words',
  text: '“x”',
  value: 'x',
  options: [],
  typed: 'These words',
};

let fixture: ComponentFixture<Sentence>;
let changes: SentenceChange[];
beforeEach(async () => {
  // jsdom has no layout.
  Element.prototype.scrollIntoView = () => undefined;
  fixture = TestBed.createComponent(Sentence);
  fixture.componentRef.setInput('label', 'What it prints');
  fixture.componentRef.setInput('pieces', ['Prints ', column, '. If blank, ', words, '.']);
  changes = [];
  fixture.componentInstance.changed.subscribe((change) => changes.push(change));
  document.body.append(fixture.nativeElement as HTMLElement);
  await fixture.whenStable();
});
afterEach(() => (fixture.nativeElement as HTMLElement).remove());

const element = (): HTMLElement => fixture.nativeElement as HTMLElement;
const button = (id: string): HTMLElement => element().querySelector<HTMLElement>(`[data-part="${id}"]`)!;
const box = (): HTMLInputElement => document.querySelector<HTMLInputElement>('[role=combobox]')!;
const lines = (): string[] =>
  [...document.querySelectorAll('[role=option]')].map((one) => one.textContent.trim());
async function open(id: string): Promise<void> {
  button(id).click();
  await fixture.whenStable();
}
async function type(text: string): Promise<void> {
  box().value = text;
  box().dispatchEvent(new Event('input'));
  await fixture.whenStable();
}
async function key(name: string): Promise<void> {
  box().dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }));
  await fixture.whenStable();
}

test('it reads as a sentence, and is heard part by part', () => {
  expect(element().textContent).toBe('Prints Name. If blank, “x”.');
  expect(button('column').getAttribute('aria-label')).toBe('the column: Name');
});

test('a part opens a list, typed to filter; arrows and Enter choose', async () => {
  await open('column');
  expect(lines()).toHaveLength(8);
  await type('na');
  expect(lines()).toEqual(['Name', 'Näme', 'First name']);
  await key('ArrowDown');
  await key('ArrowDown');
  await key('Enter');
  expect(changes).toEqual([{ id: 'column', value: 'first name' }]);
  expect(document.querySelector('[role=listbox]')).toBeNull();
  expect(document.activeElement).toBe(button('column'));
});

test('Escape leaves all as it is; what it is already is no change', async () => {
  await open('column');
  await type('mark');
  await key('Escape');
  await open('column');
  await type('zzz');
  await key('Enter');
  expect(changes).toEqual([]);
});

test('while one part is open another opens at once, whether it stands before or behind', async () => {
  await open('words');
  await open('column');
  expect(lines()).toHaveLength(8);
  await open('words');
  expect(box().value).toBe('x');
});

test('words are typed, and taken as they stand', async () => {
  await open('words');
  expect(box().value).toBe('x');
  await type(' not given ');
  expect(lines()).toEqual(['“ not given ”These words']);
  await key('Enter');
  expect(changes).toEqual([{ id: 'words', value: ' not given ' }]);
});

test('what is typed before the list has opened is not lost', async () => {
  const early = (name: string): boolean =>
    button('words').dispatchEvent(
      new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }),
    );
  button('words').click();
  // The letter takes the place of what stood there, as it would in the box.
  for (const letter of 'Ott') early(letter);
  await fixture.whenStable();
  expect(box().value).toBe('Ott');
  await key('Enter');
  button('words').click();
  for (const name of ['a', 'b', 'Enter']) early(name);
  await fixture.whenStable();
  expect(changes.map(({ value }) => value)).toEqual(['Ott', 'ab']);
  // A key that opens nothing is none of ours.
  expect(early('a')).toBe(true);
});

test('options that begin with what is typed come first; accents and capitals do not count', () => {
  expect(optionsFor(column, 'NAME').map(({ label }) => label)).toEqual(['Name', 'Näme', 'First name']);
  expect(optionsFor(column, ' ')).toHaveLength(8);
});
