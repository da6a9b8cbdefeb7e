import { printValue } from '@scriptum/core/column';
import { answersTold, wordsIn, type Form, type ToldAnswer } from '@scriptum/core/form';
import { escapeHtml } from '@scriptum/core/text';
import { momentIn } from '@scriptum/core/time';
import type { FormAnswerRow } from '../store/entities/intake.js';
import { copyWords, type CopyWords } from './copy-words.js';

/** What a copy is made from. */
export interface CopyOf {
  readonly form: Form;
  readonly answer: Pick<FormAnswerRow, 'given' | 'language' | 'receivedAt' | 'changedAt'>;
  /** Names of files that were brought, by their identities. */
  readonly files: Readonly<Record<string, string>>;
  readonly school: { readonly name: string; readonly colour: string; readonly timeZone: string };
  /** Where the answers can be changed, and where the paper is; null where they cannot, and where there is none. */
  readonly changeAt: string | null;
  readonly paperAt: string | null;
}

export interface AnswerCopy {
  readonly subject: string;
  readonly text: string;
  readonly html: string;
  readonly language: string;
}

/** Characters of one answer; the school has the whole of it. */
const TOLD_MOST = 1000;

/**
 * The copy of an answer as it is mailed. Where anybody may answer, links that somebody wrote are left out: a stranger may have written
 * both the answers and the address that they go to.
 */
export function answerCopy({ form, answer, files, school, changeAt, paperAt }: CopyOf): AnswerCopy {
  const { language } = answer;
  const words = copyWords(language);
  const moment = (iso: string): string => momentSaid(iso, language);
  const { yes, signed } = words;
  const told = answersTold(form, answer.given, { language, files, yes, signed, moment }).map((one) => ({
    ...one,
    answer: one.answer === null ? null : tame(one.answer, form.terms.who === 'anyone', words),
  }));
  const title = wordsIn(form.title, language, form.languages[0]!) || form.name;
  const arrived = words.arrived(
    school.name,
    moment(momentIn(answer.changedAt ?? answer.receivedAt, school.timeZone)),
  );
  const links = [
    ...(paperAt ? [{ text: words.paper, href: paperAt }] : []),
    ...(changeAt ? [{ text: words.change, href: changeAt }] : []),
  ];
  const why = words.why(school.name);
  const text = [
    title,
    arrived,
    ...told.map(({ question, answer: said }) =>
      said === null ? `== ${question} ==` : `${question}\n${said}`,
    ),
    ...links.map(({ text: says, href }) => `${says}:\n${href}`),
    `-- \n${why}`,
  ].join('\n\n');
  return {
    subject: words.subject(title).replace(/\s+/g, ' ').slice(0, 300),
    text: `${text}\n`,
    html: htmlOf({ title, arrived, told, links, why, language, school }),
    language,
  };
}

/** Signs that turn the direction of what stands behind them: a message could be made to read otherwise than it is. */
const TURNS = /[\u202a-\u202e\u2066-\u2069]/g;

/** An answer that fits into a message, without links that a mail program would make of it. */
function tame(answer: string, withoutLinks: boolean, { link }: CopyWords): string {
  const plain = answer.replace(TURNS, '');
  const whole = withoutLinks
    ? plain.replace(
        /(?:\b[a-z][a-z0-9+.-]*:\/\/|\bwww\.|\bmailto:|(?<![@\w.-])(?:[\w-]+\.)+[a-z]{2,}\/)\S*/giu,
        link,
      )
    : plain;
  const signs = [...whole];
  return signs.length > TOLD_MOST ? `${signs.slice(0, TOLD_MOST).join('')} …` : whole;
}

/** A day, a moment or a time as people read them (CLDR). */
function momentSaid(iso: string, language: string): string {
  if (/^\d{2}:\d{2}$/.test(iso)) return iso;
  const time = iso.includes('T');
  return printValue({ kind: 'date', iso }, { kind: 'date', style: 'long', time }, language) ?? iso;
}

interface Told {
  readonly title: string;
  readonly arrived: string;
  readonly told: readonly ToldAnswer[];
  readonly links: readonly { readonly text: string; readonly href: string }[];
  readonly why: string;
  readonly language: string;
  readonly school: CopyOf['school'];
}

function htmlOf({ title, arrived, told, links, why, language, school }: Told): string {
  const answers = told.map(({ question, answer }) =>
    answer === null
      ? `<h2 style="margin:24px 0 8px;font-size:16px" dir="auto">${escapeHtml(question)}</h2>`
      : `<p style="margin:0 0 12px" dir="auto"><span style="color:#55636E;font-size:13px">${escapeHtml(question)}</span><br>${escapeHtml(answer).replace(/\n/g, '<br>')}</p>`,
  );
  const ways = links.map(
    ({ text, href }) => `<p style="margin:0 0 8px"><a href="${escapeHtml(href)}">${escapeHtml(text)}</a></p>`,
  );
  return `<!doctype html><html lang="${escapeHtml(language)}"><head><meta charset="utf-8"><meta name="color-scheme" content="light"><title>${escapeHtml(title)}</title></head><body style="margin:0;background-color:#FFFFFF"><div style="max-width:600px;padding:24px 16px;background-color:#FFFFFF;font-family:sans-serif;font-size:15px;line-height:1.5;color:#22303C">
<p style="margin:0 0 16px;padding-bottom:8px;border-bottom:2px solid ${escapeHtml(school.colour)};font-weight:bold">${escapeHtml(school.name)}</p>
<h1 style="margin:0 0 4px;font-size:20px" dir="auto">${escapeHtml(title)}</h1>
<p style="margin:0 0 20px;color:#55636E">${escapeHtml(arrived)}</p>
${answers.join('\n')}
${ways.join('\n')}
<p style="margin:24px 0 0;padding-top:12px;border-top:1px solid #D7DDDB;color:#55636E;font-size:13px">${escapeHtml(why)}</p>
</div></body></html>`;
}
