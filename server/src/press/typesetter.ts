import type { Program } from '@scriptum/core/page';
import type { FileStandard } from '@scriptum/core/template';
import { megabytes } from '@scriptum/core/sentences';
import { ProcessPool, WorkEnded, type TaskOptions } from '../process/process-pool.js';
import type { Part } from '../process/messages.js';
import { sha256 } from '../store/blobs.js';
import type { LaidOn } from '../store/laid-on.js';
import type { ProofPage } from './split-pages.js';
import type { BlockPlace, BoxFit, Measured, TypesetAnswer, TypesetTask } from './typeset-task.js';

/** A picture's bytes with what names them. */
export interface LoadedPicture {
  readonly hash: string;
  readonly bytes: Uint8Array;
}

/** A picture of one entry alone. The program asks for it by its name. */
export interface OwnPicture extends LoadedPicture {
  readonly name: string;
}

/** A program with the bytes of its pictures at hand. */
export interface LoadedProgram extends Omit<Program, 'standard'> {
  /** Nothing where what lies under its pages keeps to none. */
  readonly standard: FileStandard | null;
  readonly pictures: readonly LoadedPicture[];
  /** What its papers lie on once they leave. */
  readonly laidOn?: LaidOn | null;
  /** Whose papers these are: schools take turns at the typesetters. */
  readonly tenant?: string;
  /** The folio: a typesetter that has just set a paper of it still knows most of what the next one needs. */
  readonly of?: string;
}

export type SetPaper =
  | {
      readonly ok: true;
      readonly pages: number;
      /** The file as it is kept: alone, where it lies on a PDF. */
      readonly bytes: Buffer;
      /** Bytes of it when it leaves, about. */
      readonly size: number;
      readonly laidOn: LaidOn | null;
      readonly fits: readonly BoxFit[];
    }
  | { readonly ok: false; readonly reason: string };
export type SetProof =
  | {
      readonly ok: true;
      readonly pages: readonly ProofPage[];
      readonly blocks: readonly BlockPlace[];
      readonly fits: readonly BoxFit[];
    }
  | { readonly ok: false; readonly reason: string };

/** What one document may take at the most. */
export const DOCUMENT_LIMITS = {
  /** UTF-16 code units of all its text together, as JSON. */
  text: 1_000_000,
  /** Bytes of a PDF: what most mail servers still take with the third that base64 adds (common practice, no source). */
  pdf: 18 * 1024 * 1024,
  /** Characters of the picture for the screen. */
  svg: 12 * 1024 * 1024,
  /** Bytes of memory that the typesetter's process may have in use. */
  memory: 1536 * 1024 * 1024,
} as const;

/** Bytes after which a typesetter is replaced between two papers. */
const RETIRE_AT = 450 * 1024 * 1024;
/** Proofs of one school that may wait; each desk asks for one at a time. */
const PROOFS_WAITING = 60;
/** Packets of papers of one school that may wait to be measured. */
const MEASURES_WAITING = 1000;
/** Papers whose texts are measured in one go. */
const MEASURED_AT_ONCE = 20;

export interface TypesetterOptions {
  /** Processes for papers. As many again are for proofs, so that these never wait behind a press. */
  readonly workers: number;
  /** Milliseconds that one document may take. */
  readonly timeLimit: number;
  readonly memoryLimit?: number;
}

/**
 * Typesets documents in processes of their own. One that takes too long or too much memory is ended with its process;
 * one that ends its process twice has failed, with a sentence. No other document is harmed.
 */
export class Typesetter {
  readonly workers: number;
  private readonly papers: ProcessPool<TypesetTask, TypesetAnswer>;
  private readonly proofs: ProcessPool<TypesetTask, TypesetAnswer>;
  private readonly measures: ProcessPool<TypesetTask, TypesetAnswer>;

  constructor(private readonly options: TypesetterOptions) {
    this.workers = options.workers;
    const file = new URL('./typesetter-child.js', import.meta.url);
    const common = {
      file,
      execArgv: ['--expose-gc'],
      timeLimit: options.timeLimit,
      memoryLimit: options.memoryLimit ?? DOCUMENT_LIMITS.memory,
      retireAt: RETIRE_AT,
    };
    this.papers = new ProcessPool({ ...common, args: ['5'], children: options.workers, ahead: 1 });
    this.proofs = new ProcessPool({
      ...common,
      children: Math.max(2, options.workers),
      // One school with pages that are slow to set leaves the other typesetters to the others.
      perTenant: 1,
      queueLimit: PROOFS_WAITING,
    });
    // Measuring gives way to everything else.
    this.measures = new ProcessPool({
      ...common,
      args: ['10'],
      children: options.workers,
      queueLimit: MEASURES_WAITING,
    });
  }

  /** Identities of the processes there are now. */
  get processes(): number[] {
    return [...this.papers.processes, ...this.proofs.processes, ...this.measures.processes];
  }

  /** Starts a typesetter for proofs, so that the first one need not wait for it. */
  warm(): void {
    this.proofs.warm();
  }

  /** Typesets one paper. `values` is the JSON of `programValues`; `at` is the date written into the PDF. */
  async paper(
    program: LoadedProgram,
    values: string,
    at: Date,
    own: readonly OwnPicture[] = [],
  ): Promise<SetPaper> {
    const timestamp = Math.floor(at.getTime() / 1000);
    const answer = await this.set(this.papers, program, own, {
      form: 'pdf',
      standard: program.standard,
      draws: program.draws,
      boxes: program.boxes,
      beyond: program.beyond.all > 0 ? program.beyond : null,
      under: program.under.map((one) => one && { ground: one.asset, page: one.page }),
      values,
      timestamp,
      most: DOCUMENT_LIMITS.pdf,
    });
    if ('bytes' in answer)
      return {
        ok: true,
        pages: answer.pages,
        fits: answer.fits,
        size: answer.size,
        laidOn: program.laidOn ?? null,
        bytes: Buffer.from(answer.bytes.buffer, answer.bytes.byteOffset, answer.bytes.length),
      };
    if ('tooLong' in answer)
      return failed(
        `The paper has ${megabytes(answer.tooLong)}; at most ${megabytes(DOCUMENT_LIMITS.pdf)} can be kept and mailed. Use smaller pictures.`,
      );
    return failed('reason' in answer ? answer.reason : 'The typesetter gave no file.');
  }

  /**
   * Typesets one paper as pictures for the screen, one for each page.
   *
   * @param signal tells that nobody waits for it any more.
   */
  async proof(
    program: LoadedProgram,
    values: string,
    own: readonly OwnPicture[] = [],
    signal?: AbortSignal,
  ): Promise<SetProof> {
    const task = {
      form: 'svg',
      standard: program.standard,
      draws: program.draws,
      boxes: program.boxes,
      values,
      timestamp: 0,
      most: DOCUMENT_LIMITS.svg,
    } as const;
    const answer = await this.set(this.proofs, program, own, task, signal);
    if ('proof' in answer) return { ok: true, pages: answer.proof, blocks: answer.blocks, fits: answer.fits };
    if ('tooLong' in answer)
      return failed(
        `This paper is too large to be shown: its picture has ${megabytes(answer.tooLong)}. Shorten it, or use smaller pictures.`,
      );
    return failed('reason' in answer ? answer.reason : 'The typesetter gave no picture.');
  }

  /** Measures how the texts of boxes fit, for each of some entries' values. */
  async measure(program: LoadedProgram, all: readonly string[]): Promise<readonly (readonly BoxFit[])[]> {
    return (await this.check({ ...program, boxes: true }, all)).map(({ fits }) => fits);
  }

  /**
   * What papers come to, for each of some entries' values, without files of them. It gives way to everything else.
   *
   * @param own the pictures that are printed for one entry alone, where there is one entry.
   */
  async check(
    program: LoadedProgram,
    all: readonly string[],
    own: readonly OwnPicture[] = [],
  ): Promise<Measured[]> {
    const some: string[][] = [];
    for (let at = 0; at < all.length; at += MEASURED_AT_ONCE) some.push(all.slice(at, at + MEASURED_AT_ONCE));
    return (await Promise.all(some.map((one) => this.checkSome(program, one, own)))).flat();
  }

  private async checkSome(
    program: LoadedProgram,
    some: readonly string[],
    own: readonly OwnPicture[],
  ): Promise<Measured[]> {
    const answer = await this.set(this.measures, program, own, {
      form: 'fits',
      standard: program.standard,
      draws: program.draws,
      boxes: program.boxes,
      values: some.length === 1 ? some[0]! : '',
      all: some,
      timestamp: 0,
      most: 0,
    });
    if ('measured' in answer) return [...answer.measured];
    if (some.length > 1 && 'reason' in answer) {
      // One of them cannot be set, or takes too long: the others shall not suffer by it.
      const each: Measured[] = [];
      for (const one of some) each.push(...(await this.checkSome(program, [one], own)));
      return each;
    }
    const reason = 'reason' in answer ? answer.reason : 'It could not be set.';
    return [{ pages: 0, fits: [], reason, ...('passing' in answer ? { passing: true as const } : {}) }];
  }

  private async set(
    pool: ProcessPool<TypesetTask, TypesetAnswer>,
    program: LoadedProgram,
    own: readonly OwnPicture[],
    task: Omit<TypesetTask, 'own'>,
    signal?: AbortSignal,
  ): Promise<TypesetAnswer> {
    const length = program.texts.length + task.values.length;
    if (length > DOCUMENT_LIMITS.text)
      return failed(
        `The text of this paper has about ${Math.round(length / 1000).toLocaleString('en')} thousand characters; at most ${(DOCUMENT_LIMITS.text / 1000).toLocaleString('en')} thousand can be set on one paper. Shorten it.`,
      );
    const tenant = program.tenant ?? '';
    const shared = partsOf(program);
    const parts = own.length === 0 ? shared : [...shared, ...own.map(partOf)];
    const affinity = task.form === 'svg' ? (program.of ?? shared[0]!.key) : shared[0]!.key;
    const options: TaskOptions = { tenant, parts, affinity, signal };
    for (let tries = 1; ; tries++) {
      try {
        return await pool.run({ ...task, own: own.map(({ name }) => name) }, options);
      } catch (error) {
        if (!(error instanceof WorkEnded))
          return failed(`The typesetter failed: ${(error as Error).message}`);
        // Where the process died, or was full, an earlier document may have had its share in it.
        const again = tries === 1 && (error.end === 'died' || error.end === 'memory');
        if (!again) return this.gaveUp(error);
      }
    }
  }

  private gaveUp(error: WorkEnded): TypesetAnswer {
    switch (error.end) {
      case 'time':
        return failed(
          `Typesetting took longer than ${this.options.timeLimit / 1000} seconds and was given up. Shorten the text, or take out pictures that are hard to draw.`,
        );
      case 'memory':
        return failed(
          'Typesetting took more memory than a paper may have and was given up. Shorten the text, or use smaller pictures.',
        );
      case 'died':
        return failed(
          'The typesetter broke down twice over this paper and gave it up. Some text in it, such as a very long run of one letter or of marks, or a picture, cannot be set. Look at the learner’s values and shorten the unusual one.',
        );
      case 'busy':
        return { ...failed('The typesetters are busy. Try again in a moment.'), passing: true };
      case 'unwanted':
        return failed('Nobody waits for this picture any more.');
      case 'closing':
        throw error;
    }
  }

  async close(): Promise<void> {
    await Promise.all([this.papers.close(), this.proofs.close(), this.measures.close()]);
  }
}

const failed = (reason: string): { ok: false; reason: string } => ({ ok: false, reason });

const partOf = ({ hash, bytes }: LoadedPicture): Part => ({
  key: `picture ${hash}`,
  size: bytes.length,
  value: bytes,
});

const known = new WeakMap<LoadedProgram, Part[]>();

/** The program and its pictures as parts that are sent to a typesetter once. */
function partsOf(program: LoadedProgram): Part[] {
  let parts = known.get(program);
  if (!parts) {
    const { source, texts, pictures } = program;
    parts = [
      {
        key: `program ${sha256(`${source}\0${texts}`)}`,
        size: source.length + texts.length,
        value: { source, texts },
      },
      ...pictures.map(partOf),
    ];
    known.set(program, parts);
  }
  return parts;
}
