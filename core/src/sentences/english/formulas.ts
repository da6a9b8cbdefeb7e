import type { Say, Saying } from '../saying.js';
import { count, counted } from './grammar.js';

export interface Named {
  readonly name: string;
}

/** What is wrong with a formula, and why it comes to nothing for a learner. Names of functions stay as they are. */
export const formulas = {
  'formula-wrong': ({ why }: { why: Saying }, say: Say) => say(why),
  'formula-column': ({ title }: { title: string }) =>
    `There is no column “${title}”. Choose one from the list.`,
  'formula-long': ({ most }: { most: number }) =>
    `The formula is longer than ${count(most)} letters. Work a part of it out in a column of its own.`,
  'formula-blank': () => 'The formula is blank. Write what is to be worked out.',
  'formula-open-text': () => 'A text in the formula does not end. Put a " after it.',
  'formula-stray': ({ sign }: { sign: string }) =>
    `The formula cannot be read at “${sign}”. Columns are put in from the list, texts stand between " and ".`,
  'formula-unreadable': () =>
    'The formula cannot be read: a bracket, a sign or a number is missing or stands where it cannot.',
  'formula-deep': ({ most }: { most: number }) =>
    `The formula has brackets in brackets, more than ${count(most)} deep. Work a part of it out in a column of its own.`,
  'formula-bracket': () => 'A bracket stands where no function is named.',
  'formula-comma': () => 'Something is missing between two commas of a function.',
  'formula-sign': () => 'A sign is missing between two parts of the formula.',
  'formula-number': ({ written }: { written: string }) => `“${written}” is too large or too small a number.`,
  'formula-name': ({ name }: Named) =>
    `“${name}” is no function and no column. Put a column in from the list, or write a text as "${name}".`,
  'formula-values': () => 'The formula cannot be worked out with these values.',
  'formula-steps': () =>
    'The formula takes too many steps for a roll of this size. Compare learners with a comparison column, or make the formula shorter.',
  'no-function': ({ name }: Named) =>
    `There is no function ${name}. The list beside the formula names those there are.`,
  'function-values': ({
    name,
    least,
    most,
    got,
  }: Named & { least: number; most: number | null; got: number }) =>
    `${name} takes ${least === most ? least : most === null ? `${least} or more` : `${least} to ${most}`} ${least === most && least === 1 ? 'value' : 'values'}, and got ${got}.`,
  'no-joined-column': ({ title }: { title: string }) => `No joined sheet has a column “${title}”.`,
  'sum-digits': () => 'A sum of fractions has more digits than can be reckoned with.',
  'number-digits': () => 'The number has more digits than can be reckoned with. Round what it is made from.',
  'text-long': ({ most }: { most: number }) => `The text gets longer than ${count(most)} letters.`,

  'divided-by-zero': () => 'Something is divided by zero.',
  'several-values': () => 'One value is needed here, and there are several.',
  'text-no-number': ({ text }: { text: string }) => `“${text}” is no number.`,
  'text-no-truth': ({ text }: { text: string }) => `“${text}” is neither true nor false.`,
  'text-no-date': ({ text }: { text: string }) => `“${text}” is no date.`,
  'choices-no-number': () => 'Several choices are no number.',
  'no-such-number': () => 'There is no such number.',
  'number-large': () => 'The number is too large, or something is divided by zero.',
  'no-such-date': () => 'There is no such date.',
  'zero-power': () => 'Zero has no negative power.',
  'negative-power': () => 'A negative number has no such power.',
  'negative-root': () => 'A number below zero has no square root.',
  'negative-none': () => 'Only numbers from zero up have one.',
  'needs-column': ({ name }: Named) => `${name} needs a column there.`,
  'no-place': ({ place }: { place: number }) => `The list has no place ${place}.`,
  'no-number-at': ({ place }: { place: number }) => `There is no number at place ${place}.`,
  'not-in-list': ({ text }: { text: string | null }) =>
    text === null ? 'The value is not in the list.' : `“${text}” is not in the list.`,
  'below-list': ({ text }: { text: string }) => `“${text}” is below the list.`,
  'outside-list': () => 'The value lies outside the list.',
  'results-few': () => 'The results are fewer than the list.',
  'letters-negative': () => 'A number of letters cannot be below zero.',
  'not-in-text': ({ text }: { text: string }) => `“${text}” is not in the text.`,
  'counts-from-1': ({ name }: Named) => `${name} counts from 1.`,
  'no-letter': ({ code }: { code: number }) => `There is no letter with the number ${code}.`,
  'text-blank': () => 'The text is blank.',
  'cannot-go-so-far': ({ name, numbers }: Named & { numbers: number }) =>
    `${name} cannot go that far with ${counted(numbers, 'number', 'numbers')}.`,
  'nothing-twice': () => 'No value comes more than once.',
  'lists-unlike': ({ name, lengths }: Named & { lengths: readonly number[] | null }) =>
    lengths === null
      ? `The lists of ${name} are not of one length.`
      : `The lists of ${name} are of ${lengths.join(' and ')} values, not of one length.`,
  'correlation-few': () => 'A correlation needs two pairs of numbers.',
  'needs-positive': ({ name }: Named) => `${name} needs numbers above zero.`,
  'deviation-of-one': () => 'One number alone has no deviation.',
  'variance-of-one': () => 'One number alone has no variance.',
  'needs-like-signs': ({ name }: Named) =>
    `${name} needs a number and a step that are both above zero, or both below.`,
  'no-result': ({ name }: Named) => `${name} has no result there.`,
  'dates-reversed': () => 'The second date is before the first.',
  'dates-far': () => 'The dates are too far apart.',
  'datedif-unit': () => 'DATEDIF counts in "y", "m", "d", "ym", "yd" or "md".',
  'weekday-type': () => 'WEEKDAY knows the types 1, 2, 3 and 11 to 17.',
  'ifs-unmet': () => 'No condition of IFS is met.',
  'switch-unmet': () => 'No case of SWITCH fits.',
  'choose-place': ({ place }: { place: number }) => `CHOOSE has no value at place ${place}.`,
  'says-nothing': () => 'The formula says that there is nothing.',

  // Each ends the sentence “There is nothing, because”.
  'compared-blank': () => 'something it is compared with is blank',
  'made-from-blank': () => 'something it is made from is blank',
  'looked-up-blank': () => 'what is looked up is blank',
  'asked-blank': () => 'all that is asked about is blank',
  'condition-unmet': () => 'the condition is not met',
  'no-numbers': () => 'there are no numbers',
};
