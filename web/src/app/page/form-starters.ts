/** A form that ships with Scriptum, to be filled in. */
export interface FormStarter {
  /** Its file in the application's own, without an ending. */
  readonly id: string;
  readonly name: string;
  /** What it is for, in a few words. */
  readonly hint: string;
}

export const FORM_STARTERS: readonly FormStarter[] = [
  { id: 'consent', name: 'Consent form', hint: 'For a visit, with answers ticked and written in' },
  { id: 'report-sheet', name: 'Report sheet', hint: 'A table of subjects, attendance, a remark' },
];

export const isForm = (begun: object): begun is FormStarter => 'hint' in begun;

/** The form's PDF. */
export async function fileOfForm({ id, name }: FormStarter): Promise<File> {
  const answer = await fetch(`forms/${id}.pdf`);
  if (!answer.ok) throw new Error(`The form “${name}” could not be read. Try again in a moment.`);
  return new File([await answer.blob()], `${name}.pdf`, { type: 'application/pdf' });
}
