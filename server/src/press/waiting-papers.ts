import type { EntityManager } from 'typeorm';
import { PaperRow, type PressRunRow } from '../store/entities/register.js';

/** Papers that are read at a time. */
const CHUNK = 240;

/** The waiting papers of a run in the order of the roll; the next ones are read while these are set. */
export class WaitingPapers {
  private papers: PaperRow[] = [];
  private at = 0;
  private last: { position: number; id: string } | null = null;
  private reading: Promise<PaperRow[]> | null;

  constructor(
    private readonly manager: EntityManager,
    private readonly run: PressRunRow,
  ) {
    this.reading = this.read();
  }

  /** The next paper, or null where there is none left. */
  async next(): Promise<PaperRow | null> {
    while (this.at >= this.papers.length) {
      const reading = this.reading;
      if (!reading) return null;
      const papers = await reading;
      // Another lane may have taken them over meanwhile.
      if (this.reading !== reading) continue;
      this.papers = papers;
      this.at = 0;
      const last = papers.at(-1);
      if (last) this.last = { position: last.position, id: last.id };
      this.reading = papers.length < CHUNK ? null : this.read();
    }
    return this.papers[this.at++]!;
  }

  private read(): Promise<PaperRow[]> {
    const { id: runId, schoolId } = this.run;
    const query = this.manager
      .createQueryBuilder(PaperRow, 'p')
      .where("p.runId = :runId AND p.schoolId = :schoolId AND p.state = 'waiting'", { runId, schoolId })
      .orderBy('p.position')
      .addOrderBy('p.id')
      .limit(CHUNK);
    if (this.last)
      query.andWhere('(p.position > :position OR (p.position = :position AND p.id > :last))', {
        position: this.last.position,
        last: this.last.id,
      });
    const papers = query.getMany();
    // Awaited when it is their turn; this keeps an early failure from being reported as unhandled meanwhile.
    papers.catch(() => undefined);
    return papers;
  }
}
