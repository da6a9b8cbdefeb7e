import type { Program } from '@scriptum/core/page';
import { Piscina } from 'piscina';
import type { SharedAsset, TypesetAnswer, TypesetTask } from './typesetter-worker.js';

/** A program with the bytes of its pictures at hand. */
export interface LoadedProgram extends Program {
  readonly pictures: readonly SharedAsset[];
}

export type SetPaper =
  | { readonly ok: true; readonly pages: number; readonly bytes: Buffer }
  | { readonly ok: false; readonly reason: string };
export type SetProof =
  | { readonly ok: true; readonly pages: number; readonly svg: string }
  | { readonly ok: false; readonly reason: string };

/** Warm compilers in worker threads. A document that takes longer than the limit is given up, and its thread replaced. */
export class Typesetter {
  private readonly pool: Piscina<TypesetTask, TypesetAnswer>;

  /** @param timeLimit milliseconds that one document may take. */
  constructor(
    readonly workers: number,
    private readonly timeLimit: number,
  ) {
    this.pool = new Piscina({
      filename: new URL('./typesetter-worker.js', import.meta.url).href,
      minThreads: workers,
      maxThreads: workers,
      idleTimeout: Infinity,
    });
  }

  /** Typesets one paper. `values` is the JSON of `programValues`; `at` is the date written into the PDF. */
  async paper(program: LoadedProgram, values: string, at: Date): Promise<SetPaper> {
    const answer = await this.run(program, values, 'pdf', at);
    if (!answer.ok) return answer;
    if (!('bytes' in answer))
      throw new Error('The typesetter answered with a picture where a PDF was asked for.');
    return {
      ok: true,
      pages: answer.pages,
      bytes: Buffer.from(answer.bytes.buffer, answer.bytes.byteOffset, answer.bytes.length),
    };
  }

  /** Typesets one paper as a picture for the screen, pages one below the other. */
  async proof(program: LoadedProgram, values: string): Promise<SetProof> {
    const answer = await this.run(program, values, 'svg', new Date(0));
    if (!answer.ok) return answer;
    if (!('svg' in answer))
      throw new Error('The typesetter answered with a PDF where a picture was asked for.');
    return { ...answer, svg: slimSvg(answer.svg) };
  }

  private async run(
    program: LoadedProgram,
    values: string,
    form: 'pdf' | 'svg',
    at: Date,
  ): Promise<TypesetAnswer> {
    const { source, texts, pictures } = program;
    const task: TypesetTask = {
      form,
      source,
      texts,
      values,
      assets: pictures,
      timestamp: Math.floor(at.getTime() / 1000),
    };
    const stop = new AbortController();
    const timer = setTimeout(() => stop.abort(), this.timeLimit);
    try {
      return await this.pool.run(task, { signal: stop.signal });
    } catch (error) {
      if (stop.signal.aborted) {
        return {
          ok: false,
          reason: `Typesetting took longer than ${this.timeLimit / 1000} seconds and was given up.`,
        };
      }
      // A thread that died takes its task with it; the pool has a new one by now.
      return { ok: false, reason: `The typesetter failed: ${(error as Error).message}` };
    } finally {
      clearTimeout(timer);
    }
  }

  async close(): Promise<void> {
    await this.pool.destroy();
  }
}

/** Copies a picture's bytes to memory that all threads share. */
export function shareAsset(hash: string, bytes: Uint8Array): SharedAsset {
  const shared = new SharedArrayBuffer(bytes.length);
  new Uint8Array(shared).set(bytes);
  return { hash, bytes: shared };
}

/**
 * The same picture in about half the bytes, so that a browser shows it sooner: no white space between tags, no
 * attributes that say what is the initial value anyway (SVG 2, sections 13.2 and 13.4.2, and `y` of `use`, 5.5).
 */
export function slimSvg(svg: string): string {
  return svg
    .replace(/>\s+</g, '><')
    .replace(/ fill-rule="nonzero"/g, '')
    .replace(/(<use [^>]*?) y="0"/g, '$1')
    .replace(/(<use [^>]*?) fill="#000000"/g, '$1');
}
