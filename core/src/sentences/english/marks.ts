import type { Say, Saying } from '../saying.js';
import { capital, counted, form, people, quoted, type People } from './grammar.js';

export interface Named {
  readonly title: string;
}
export interface Of {
  readonly title: string;
  readonly who: People;
}

/** Why a cell of a worked column is blank or an error, and what is worth a look in such a column. */
export const marks = {
  'nothing-because': ({ why }: { why: Saying }, say: Say) => `There is nothing, because ${say(why)}.`,

  // Each ends the sentence “There is nothing, because”.
  'column-blank': ({ title }: Named) => `“${title}” is blank`,
  'column-no-number': ({ title }: Named) => `“${title}” is no number here`,
  'column-no-mark': ({ title }: Named) => `“${title}” has no mark`,
  'left-out': () => 'the entry is left out',
  'too-few': ({ least }: { least: number }) =>
    `fewer than ${counted(least, 'learner has', 'learners have')} a mark`,
  'group-small': () => 'the group is too small for it, or all marks are alike',
  'no-earlier': () => 'no earlier mark is chosen',
  'no-pieces': () => 'the mark scheme has no pieces of work yet',
  'nothing-marked': () => 'nothing is marked yet',
  'all-is-dropped': () => 'everything is dropped',
  'nothing-counts': () => 'nothing counts',
  'nothing-counts-there': () => 'nothing counts there',
  'no-questions': () => 'the key has no questions yet',
  'no-answers': () => 'no question is answered',
  'not-marked': () => 'it is not marked yet',
  'no-band': () => 'the mark is below all bands',
  'no-band-above': () => 'there is no band above',
  'band-no-number': ({ band }: { band: string }) => `the band ${band} stands for no number`,
  'no-remark': () => 'no remark fits the mark',
  'no-sessions': () => 'the register has no sessions for this learner',
  'sessions-unsaid': () => 'the sheet says who was away, but not how many sessions there were',
  'sessions-over': () => 'more sessions are counted than there were',

  // Sentences.
  'value-no-number': ({ title }: Named) => `“${title}” is no number here.`,
  'column-gone': () => 'A column that it is worked out from is no longer there. Choose another.',
  'sheet-error': ({ error }: { error: string }) =>
    `The sheet holds the error ${error} here. Mend it there, or write a value.`,
  'earlier-gone': () => 'Choose the mark before.',
  'no-source-of-part': ({ title }: Named) =>
    `“${title}” is no mark scheme and no marking key. Choose another column.`,
  'part-of-scheme': () => 'A mark scheme does not know this. Choose what is to be taken from it.',
  'part-of-key': () => 'A marking key does not know this. Choose what is to be taken from it.',
  'question-gone': () => 'The question is no longer in the key. Choose another.',
  'not-worked': () => 'This cannot be worked out with the values that stand here.',
  circular: ({ titles }: { titles: readonly string[] }) =>
    titles.length === 1
      ? `“${titles[0]}” is worked out from itself.`
      : `“${titles[0]}” is worked out from ${titles.slice(1).map(quoted).join(', that from ')}, and that from “${titles[0]}” again.`,

  // What is worth a look.
  'register-code': ({ title, code, who }: Of & { code: string }) =>
    `The register holds “${code}” (${people(who)}), which “${title}” does not know. It is not counted; say what it means.`,
  'attendance-over': ({ title, who }: Of) =>
    `“${title}” counts more sessions for ${people(who)} than there were. Mend the sheet, or say which columns hold what.`,
  'attendance-unlike': ({ title, who }: Of) =>
    `The sessions of ${people(who)} in “${title}” do not add up to all sessions. Perhaps those who came late are among the present too; say so at the column.`,
  'attendance-unsaid': ({ title, who }: Of) =>
    `“${title}” knows how often ${people(who)} was away, but not how many sessions there were. Choose the column that says so.`,
  'shares-sum': ({ title, total }: Named & { total: string }) =>
    `The shares of “${title}” add up to ${total} %, not to 100 %. They are counted in proportion.`,
  'threshold-twice': ({ title, from, band }: Named & { from: string | null; band: string }) =>
    `Two bands of “${title}” begin at ${from ?? 'the bottom'}, so “${band}” is never given. Change one of them.`,
  'band-points': ({ title, most, band }: Named & { most: string; band: string }) =>
    `“${title}” looks up points out of ${most} as if they were percent, so nobody can reach “${band}”. Say that they are out of ${most}.`,
  'bands-alike': ({ title, learners }: Named & { learners: number }) =>
    `All ${counted(learners, 'learner gets', 'learners get')} the same band of “${title}”. Look whether the marks and the bands mean the same: points, or percent.`,
  'band-shown': ({ title, shown, who }: Of & { shown: string }) =>
    `“${title}” looks up more of the mark than is shown: ${shown} of ${people(who)} gets another band than a full ${shown} would. Choose that it counts as it is shown, if it should.`,
  'below-bands': ({ title, who }: Of) =>
    `The mark of ${people(who)} is below all bands of “${title}”, which stays blank there. Add a band without a lower end.`,
  'cohort-of-one': ({ title, of, who }: Of & { of: string }) =>
    `“${title}” compares ${people(who)} with nobody: no other learner of that group has “${of}”. Say below how many learners nothing is told.`,
  'within-blank': ({ title, who }: Of) =>
    `“${title}” goes by groups of learners, and ${people(who)} ${form(who.count, 'has', 'have')} none. Fill it in, or choose no group there.`,
  'question-without-answer': ({ title, question }: Named & { question: string }) =>
    `“${question}” has no right answer in the key “${title}”, so nobody gets points for it.`,
  'question-without-points': ({ title, question }: Named & { question: string }) =>
    `“${question}” gives no points in the key “${title}”. Say how many.`,
  'near-miss': ({
    title,
    question,
    answers,
    more,
    who,
  }: Of & { question: string; answers: readonly string[]; more: boolean }) =>
    `Answers to “${question}” are nearly right and get nothing (${people(who)}): ${answers.map(quoted).join(', ')}${more ? ' and others' : ''}. Decide at the key “${title}” whether they are.`,
  'hand-open': ({ title, question, who }: Of & { question: string }) =>
    `“${question}” of “${title}” waits to be marked by hand for ${people(who)}. It is left out of the score until then.`,
  'hand-above': ({ question, most, who }: Of & { question: string; most: string }) =>
    `The points that were given by hand for “${question}” are outside 0 to ${most} for ${people(who)}. They count as they stand.`,
  'part-gone': ({ title, why }: Named & { why: Saying }, say: Say) => `“${title}” stays blank: ${say(why)}`,
  'formula-wrong-in': ({ title, why }: Named & { why: Saying }, say: Say) => `“${title}”: ${say(why)}`,
  'formula-error': ({ title, why, who }: Of & { why: Saying }, say: Say) =>
    `“${title}” cannot be worked out for ${people(who)}: ${say(why)}`,
  'remarks-alike': ({ title, learners }: Named & { learners: number }) =>
    `The marks of all ${counted(learners, 'learner falls', 'learners fall')} into one range of “${title}”. Look whether the marks and the ranges mean the same: points, or percent.`,
  'remark-gap': ({ title, above, below }: Named & { above: string; below: string }) =>
    `No remark of “${title}” fits a mark between ${above} and ${below}. Let the ranges meet.`,
  'remark-none': ({ title, who }: Of) =>
    `No remark of “${title}” fits the mark of ${people(who)}. Add one, or write it by hand.`,
  'remark-long': ({ title, room, who }: Of & { room: number }) =>
    `“${title}” is longer than ${counted(room, 'letter', 'letters')} for ${people(who)}. It may not fit the printed space.`,
  'pronouns-unknown': ({ title, who }: Of) =>
    `The pronouns of ${people(who)} are not known to “${title}”, so the name stands for them. Write she/her, he/him, they/them, or all five forms.`,
  'remark-same': ({ title, who }: Of) =>
    `${capital(people(who))} ${form(who.count, 'gets', 'get')} the same remark in “${title}” as the neighbour in the class, since no other fits.`,
  'weights-sum': ({ title, total }: Named & { total: string }) =>
    `The weights of “${title}” add up to ${total}, not to 100. They are counted in proportion.`,
  'out-of-zero': ({ title, piece, outOf }: Named & { piece: string; outOf: string }) =>
    `“${piece}” is out of ${outOf} in “${title}”, so it does not count. Say what it is out of.`,
  'letter-grades': ({
    title,
    piece,
    grades,
    states,
    who,
  }: Of & { piece: string; grades: readonly string[]; states: readonly string[] }) =>
    `“${piece}” seems to hold letter grades (${grades.join(', ')}), and “${title}” reads ${states.join(', ')} there as absent, excused or missing (${people(who)}). Take these words out of the scheme, if they are grades.`,
  'mark-text': ({ title, written, piece, who }: Of & { written: string; piece: string }) =>
    `“${title}” meets a text where a mark should be (${people(who)}): “${written}” in “${piece}”. It counts as not marked yet. Mend it, or add the word to the scheme.`,
  'mark-above': ({ piece, outOf, who }: Of & { piece: string; outOf: string }) =>
    `${form(who.count, 'A mark', 'Marks')} of ${people(who)} ${form(who.count, 'is', 'are')} outside what there is to get: “${piece}” is out of ${outOf}. It counts as it stands.`,
  'all-dropped': ({ title, who }: Of) =>
    `In a group of “${title}” everything is dropped for ${people(who)}, so the group counts nothing there.`,
  'late-text': ({ title, written, piece, who }: Of & { written: string; piece: string }) =>
    `“${title}” cannot read how late work came (${people(who)}): “${written}” in “${piece}”. It counts as in time. Write a number of days, or a date.`,
  'late-due': ({ title, piece, who }: Of & { piece: string }) =>
    `“${title}” knows when “${piece}” came (${people(who)}), but not when it was due, so it counts as in time. Say when it was due.`,
};
