import type { Practised } from '@scriptum/core/contract';
import { signatureOf } from './hooks.js';

const GIVEN = ['Ada', 'Bo', 'Cy', 'Dagny', 'Émile', 'Fatimah', 'Gwen', 'Hiro'];
const FAMILY = ['Lark', 'Reed-Okafor', 'Fenn', 'Ångström', 'Brück', 'al-Sayed', 'Pryce', 'Tanaka'];
const CLUBS = ['Chess', 'Choir', 'Sailing', 'Theatre'];

/** Stands in for a form service of somebody else: asks a few things, and brings each answer to the hook over HTTP, signed. */
export class PracticeService {
  /** @param pick a number below another one; at random where nothing is said. */
  constructor(private readonly pick = (below: number): number => Math.floor(Math.random() * below)) {}

  async send(link: string, key: string): Promise<Practised> {
    const one = (words: readonly string[]): string => words[this.pick(words.length)]!;
    const [given, family] = [one(GIVEN), one(FAMILY)];
    const number = 1000 + this.pick(9000);
    const body = Buffer.from(
      JSON.stringify({
        submission: number,
        answers: [
          { id: 'given', question: 'First name', answer: given },
          { id: 'family', question: 'Surname', answer: family },
          { id: 'mail', question: 'Guardian email', answer: `family${number}@families.example` },
          { id: 'clubs', question: 'Clubs', answer: CLUBS.filter((_, n) => n === 0 || this.pick(2) === 1) },
          { id: 'meals', question: 'Takes school meals', answer: this.pick(2) === 1 },
        ],
      }),
    );
    const time = String(Math.floor(Date.now() / 1000));
    const response = await fetch(link, {
      method: 'POST',
      headers: {
        'content-type': 'application/json',
        'scriptum-time': time,
        'scriptum-signature': signatureOf(key, time, body),
      },
      body,
      signal: AbortSignal.timeout(10_000),
    });
    const told = (await response.json()) as { detail?: string };
    return {
      status: response.status,
      says: response.ok
        ? `The answer of ${given} ${family} was brought.`
        : (told.detail ?? 'It was refused.'),
    };
  }
}
