import { count, counted } from './grammar.js';

const MEASURES = {
  rank: ['rank', 'Rank'],
  percentile: ['percentile', 'Percentile'],
  quarter: ['quarter', 'Quarter'],
  quantile: ['quantile', 'Quantile'],
  mean: ['mean', 'Mean'],
  median: ['median', 'Median'],
  deviation: ['standard deviation', 'Standard deviation'],
  lowest: ['lowest', 'Lowest'],
  highest: ['highest', 'Highest'],
  count: ['count', 'Learners with a mark'],
  'z-score': ['z-score', 'Standard deviations from the mean'],
  'from mean': ['from the mean', 'Difference from the mean'],
  change: ['change', 'Change'],
} as const;
type Measure = keyof typeof MEASURES;

const VERDICTS = {
  right: 'right',
  partly: 'partly right',
  wrong: 'not right',
  blank: 'no answer',
  open: 'not marked yet',
};

const COUNTS = { present: 'present', late: 'late', excused: 'excused', unexcused: 'unexcused' };

const STATES = {
  absent: 'absent',
  excused: 'excused',
  missing: 'missing',
  unmarked: 'not marked yet',
};

/** Kinds of worked columns, and the words in which their cells and how they come about are told. Numbers come written. */
export const steps = {
  'a-scheme': () => 'mark scheme',
  'a-band': () => 'bands',
  'a-distance': () => 'to the next band',
  'a-comparison': ({ measure }: { measure: Measure }) => MEASURES[measure][0],
  'an-attendance': () => 'attendance',
  'a-key': () => 'marking key',
  'a-remark': () => 'remark',
  'a-formula': () => 'formula',
  'some-steps': () => 'steps',
  'a-personal-link': () => 'personal link',
  'a-personal-code': () => 'personal code',
  'a-part': () => 'part',
  'gone-column': () => 'a column that is gone',

  yes: () => 'Yes',
  no: () => 'No',
  blank: () => 'blank',
  percent: ({ value }: { value: string }) => `${value} %`,
  'of-whole': ({ value, whole }: { value: string; whole: string }) => `${value} of ${whole}`,
  'out-of': ({ whole }: { whole: string }) => `of ${whole}`,
  verdict: ({ verdict }: { verdict: keyof typeof VERDICTS }) => VERDICTS[verdict],
  'answer-line': ({
    sign,
    question,
    given,
    right,
    remark,
  }: {
    sign: string;
    question: string;
    given: string;
    right: string;
    remark: string;
  }) =>
    `${sign} ${question}: ${given || VERDICTS.blank}${right ? ` (right: ${right})` : ''}${remark ? ` ${remark}` : ''}`,
  'right-answer': ({ right }: { right: string }) => `right: ${right}`,
  'still-open': ({ questions }: { questions: number }) => `${count(questions)} still open`,
  score: () => 'Score',
  'score-and-percent': ({ points, outOf, percent }: { points: string; outOf: string; percent: string }) =>
    `${points} of ${outOf}, ${percent} %`,

  sessions: () => 'Sessions',
  rate: () => 'Rate',
  'not-known': () => 'not known',
  'sessions-counted': ({ as, value }: { as: keyof typeof COUNTS; value: string | null }) =>
    `${COUNTS[as]} ${value ?? 'not known'}`,
  'late-counts': ({ present }: { present: boolean }) =>
    present ? 'late counts as present' : 'late does not count as present',
  'sessions-sentence': ({
    counts,
    possible,
  }: {
    counts: readonly { readonly as: keyof typeof COUNTS; readonly value: string | null }[];
    possible: string;
  }) =>
    `${counts.map(({ as, value }) => `${COUNTS[as]} ${value ?? '?'}`).join(', ')} of ${possible} sessions`,

  band: () => 'Band',
  'below-all-bands': () => 'below all bands',
  'lowest-band': () => 'the lowest band',
  'band-from': ({ band, from }: { band: string; from: string }) => `${band} from ${from}`,
  'band-share': ({ band, share }: { band: string; share: string | number }) => `${band} ${share} %`,
  'below-band': ({ missing, band }: { missing: string; band: string }) => `${missing} below ${band}`,
  'to-next-band': () => 'To the next band',
  borderline: () => 'borderline',
  'among-learners': ({ title, learners }: { title: string; learners: number }) =>
    `${title} among ${counted(learners, 'learner', 'learners')}`,
  'as-shown': ({ title }: { title: string }) => `${title}, as it is shown`,
  'rounded-before': ({ title }: { title: string }) => `${title}, rounded before its band is looked up`,

  change: () => 'Change',
  compared: ({ measure, learners, group }: { measure: Measure; learners: number; group: string }) =>
    `${MEASURES[measure][1]} among ${counted(learners, 'learner', 'learners')}${group ? ` (${group})` : ''}`,
  'so-many-above': ({ count: others }: { count: number }) => `${count(others)} above`,
  'so-many-below': ({ count: others }: { count: number }) => `${count(others)} below`,
  'so-many-alike': ({ count: others }: { count: number }) => `${count(others)} alike`,
  ranking: ({ ties }: { ties: string }) => `${ties} ranking`,
  'counted-as': ({ method }: { method: string }) => `counted ${method}`,
  'quantile-type': ({ type }: { type: number }) => `Hyndman and Fan type ${type}`,
  'of-a-spread': ({ spread }: { spread: string }) => `of a ${spread}`,
  'the-mean': ({ value }: { value: string }) => `mean ${value}`,
  'the-deviation': ({ value, spread }: { value: string; spread: string }) =>
    `standard deviation ${value} of a ${spread}`,

  with: () => 'With',
  'rounded-how': ({ mode }: { mode: string }) => `Rounded ${mode}`,
  'so-many-in-all': ({ first, count: all }: { first: readonly string[]; count: number }) =>
    `${first.join(', ')} … (${count(all)} in all)`,

  'taken-from': ({ title }: { title: string }) => `Taken from ${title}`,

  'the-learner': () => 'the learner',
  pronouns: () => 'Pronouns',
  'pronouns-avoided': () => 'avoided, the name stands for them',
  'pronouns-strange': ({ pronouns }: { pronouns: string }) =>
    `“${pronouns}” is not known, so the name stands for them`,
  length: () => 'Length',
  letters: ({ letters, room }: { letters: number; room: number | null }) =>
    `${counted(letters, 'letter', 'letters')}${room === null ? '' : ` of ${count(room)}`}`,
  'mark-range': ({ from, to }: { from: string | null; to: string | null }) =>
    from === null
      ? to === null
        ? 'any mark'
        : `up to ${to}`
      : to === null
        ? `from ${from}`
        : `${from} to ${to}`,
  'mark-of-whole': ({
    title,
    mark,
    whole,
    percent,
  }: {
    title: string;
    mark: string;
    whole: string;
    percent: string;
  }) => `${title} ${mark} of ${whole}, ${percent} %`,

  'mark-an-error': () => 'One of the marks is an error',
  group: () => 'Group',
  pieces: () => 'Pieces',
  extra: () => 'Extra',
  'mark-by-weight': ({ name, mark, weight }: { name: string; mark: string; weight: string }) =>
    `${name} ${mark} × ${weight}`,
  'on-top': () => 'on top',
  together: ({ total }: { total: string | null }) =>
    total === null ? 'Together, by points' : `Together, out of ${total}`,
  'cut-at': ({ at }: { at: string }) => `Cut at ${at}`,
  'cut-there': ({ at }: { at: string }) => `cut at ${at}`,
  'rounded-to': ({ places, mode }: { places: number; mode: string }) =>
    `Rounded to ${places === 0 ? 'a whole number' : counted(places, 'place', 'places')}, ${mode}`,
  open: () => 'Still open',
  'of-the-weight': ({ percent }: { percent: string }) => `${percent} % of the weight`,
  between: ({ low, high }: { low: string; high: string }) => `between ${low} and ${high}`,
  'adds-nothing': () => 'nothing yet',
  adds: ({ points }: { points: string }) => `adds ${points}`,
  'no-mark': () => 'no mark',
  'out-of-nothing': () => 'out of nothing',
  'piece-notes': ({
    late,
    extra,
    dropped,
    weightless,
  }: {
    late: { readonly days: number; readonly lost: string } | null;
    extra: boolean;
    dropped: boolean;
    weightless: boolean;
  }) =>
    [
      late ? `${counted(late.days, 'day', 'days')} late, less ${late.lost}` : '',
      extra ? 'extra' : '',
      dropped ? 'dropped' : '',
      weightless ? 'weighs nothing' : '',
    ]
      .filter(Boolean)
      .join(', '),
  'mark-state': ({ state }: { state: keyof typeof STATES }) => STATES[state],
  'state-counts': ({ state, dropped }: { state: keyof typeof STATES; dropped: boolean }) =>
    `${state}${dropped ? ', dropped' : ''}`,
  'is-open': () => 'still open',
  'does-not-count': () => 'does not count',
};
