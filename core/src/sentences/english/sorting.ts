import type { Say, Saying } from '../saying.js';
import { capital, form, listed, people, quoted, type People } from './grammar.js';

/** Who gets which papers, and why. */
export const sorting = {
  'sorting-rule': (
    { if: condition, then, also }: { if: Saying | null; then: Saying; also: boolean },
    say: Say,
  ) => {
    const who = condition ? `If ${say(condition)}` : also ? 'Everyone' : 'Everyone else';
    return `${who}: ${say(then)}`;
  },
  'rule-column-gone': ({ rule }: { rule: number }) =>
    `Rule ${rule} of the sorting looks at a column that is gone, so it takes nobody. Choose another column there.`,
  'rule-nobody': ({ rule }: { rule: number }) =>
    `Rule ${rule} of the sorting takes nobody. Mend it, or take it out.`,
  'rule-gives-gone': ({ rule, chosen }: { rule: number; chosen: number }) =>
    chosen === 0
      ? `Rule ${rule} of the sorting gives nothing. Choose what those get whom it takes.`
      : `Rule ${rule} of the sorting gives what was deleted or is switched off. Choose something else, or switch it on at the station Page.`,
  'rules-overlap': ({ rule, first, who }: { rule: number; first: readonly number[]; who: People }) =>
    `Rule ${rule} of the sorting fits ${people(who)} too, but rule ${listed(first.map(String))} ${form(first.length, 'takes', 'take')} ${form(who.count, 'this learner', 'them')} first. Move the one up that is to count.`,
  'sorting-nobody': ({ who }: { who: People }) =>
    `${capital(people(who))} ${form(who.count, 'is', 'are')} taken by no rule of the sorting, and ${form(who.count, 'gets', 'get')} no paper. Put in a rule for everyone else.`,
  'sorting-nothing': ({ who }: { who: People }) =>
    `${capital(people(who))} ${form(who.count, 'is', 'are')} taken by a rule that gives nothing just now, and ${form(who.count, 'gets', 'get')} no paper.`,
  'template-nobody': ({ name }: { name: string }) =>
    `No rule of the sorting gives ${quoted(name)} to anybody. Choose it in a rule, or switch it off.`,
  'exception-touched': ({ name, who }: { name: string; who: People }) =>
    `${quoted(name)} was changed where the exception for ${people(who)} says something else. What is the ${form(who.count, 'learner’s', 'learners’')} own stays; look whether it is still right.`,
  'exception-idle': ({ name, who }: { name: string; who: People }) =>
    `There is an exception for ${people(who)} in ${quoted(name)}, which ${form(who.count, 'this learner does', 'they do')} not get. Take it back, or look at the sorting.`,
  'try-longest-name': () => 'the longest name',
  'try-shortest-name': () => 'the shortest name',
  'try-right-to-left': () => 'a name from right to left',
  'try-longest-text': () => 'the longest text',
  'try-most-blank': () => 'the most blank cells',
  'try-most-findings': () => 'the most findings',
  'try-more-pages': () => 'more pages than the others',
  'try-rule': ({ rule }: { rule: number }) => `rule ${rule} of the sorting`,
  'paper-changed': ({
    fields,
    more,
    template,
  }: {
    fields: readonly { name: string; before: string; now: string }[];
    more: number;
    template: boolean;
  }) => {
    const told = fields.map(({ name, before, now }) =>
      before === now ? name : `${name} (${before || 'blank'} → ${now || 'blank'})`,
    );
    const parts = [
      ...told,
      ...(more > 0 ? [`${more} more ${form(more, 'thing', 'things')}`] : []),
      ...(template ? ['the text of the template'] : []),
    ];
    return `Since it was cleared, ${listed(parts, Infinity)} changed.`;
  },
  'sorted-gives': ({
    names,
    notes = [],
    also,
  }: {
    names: readonly string[];
    notes?: readonly string[];
    also: boolean;
  }) =>
    names.length === 0
      ? 'nothing'
      : `${also ? 'also ' : ''}${listed(names)}${notes.length > 0 ? ` with ${listed(notes.map(quoted))}` : ''}`,
  'sorted-out': ({ why }: { why: string }) => (why === '' ? 'left out' : `left out, because ${why}`),
};
