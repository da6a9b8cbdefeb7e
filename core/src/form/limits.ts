/** Of one form. */
export const FORM_LIMITS = {
  items: 200,
  choices: 100,
  rows: 40,
  languages: 12,
  /** Characters of one answer, where the question says nothing. */
  text: 20_000,
  files: 10,
  /** Megabytes of one file. */
  megabytes: 20,
  answers: 20_000,
} as const;
