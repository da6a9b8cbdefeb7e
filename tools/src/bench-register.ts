import type { Folio, Register } from '@scriptum/core/contract';
import { writingsOf } from '@scriptum/core/template';
import type { Running } from '@scriptum/server/server';
import { signedIn } from './bench-client.js';

/** Milliseconds over HTTP, of a folio with very many papers; the middle of some. */
export interface RegisterTimes {
  /** All papers. */
  readonly whole: number;
  /** What changed, where nothing did. */
  readonly nothing: number;
  /** A save of the letter, while nobody waits for the papers to be compared. */
  readonly save: number;
  /** What changed, right after such a save. */
  readonly afterSave: number;
  /** From the save until it is known and told which papers are out of date. */
  readonly compared: number;
  /** The folio as its desk opens. */
  readonly folio: number;
}

const TIMES = 9;

/** Times the register of a folio whose papers are pressed. */
export async function measureRegister(running: Running, folioId: string): Promise<RegisterTimes> {
  const call = await signedIn(running);
  const timed = async <T>(work: () => Promise<T>): Promise<[number, T]> => {
    const began = performance.now();
    const answer = await work();
    return [performance.now() - began, answer];
  };
  const register = (since?: number): Promise<Register> =>
    call<Register>('GET', `/folios/${folioId}/papers${since === undefined ? '' : `?since=${since}`}`);
  const settled = async (since?: number): Promise<Register> => {
    for (;;) {
      const one = await register(since);
      if (!one.comparing) return one;
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
  };
  const times: Record<keyof RegisterTimes, number[]> = {
    whole: [],
    nothing: [],
    save: [],
    afterSave: [],
    compared: [],
    folio: [],
  };
  let { revision } = await settled();
  for (let n = 0; n < TIMES; n++) {
    times.whole.push((await timed(() => register()))[0]);
    times.nothing.push((await timed(() => register(revision)))[0]);
    const [opening, folio] = await timed(() => call<Folio>('GET', `/folios/${folioId}`));
    times.folio.push(opening);
    const { id, kind, version, content } = writingsOf(folio.writings, 'letter')[0]!;
    const changed = { ...content, language: content.language === 'de-DE' ? 'en-GB' : 'de-DE' };
    const began = performance.now();
    const body = { kind, version, content: changed };
    times.save.push((await timed(() => call('PUT', `/folios/${folioId}/writings/${id}`, body)))[0]);
    times.afterSave.push((await timed(() => register(revision)))[0]);
    ({ revision } = await settled(revision));
    times.compared.push(performance.now() - began);
  }
  const middle = (list: number[]): number => list.sort((a, b) => a - b)[list.length >> 1]!;
  return Object.fromEntries(
    Object.entries(times).map(([name, list]) => [name, middle(list)]),
  ) as unknown as RegisterTimes;
}
