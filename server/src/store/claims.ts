/**
 * Claims: how work in the database is taken by one of several servers. A row names who works on it and until when, by the
 * database's own clock. It is taken by an update that holds only where nobody has it, kept by saying so again before the
 * term ends, and taken over by another where the term has ended, because its server is gone or cannot reach the database.
 * What is done under a claim is written only where the claim is still held, so a server that was asleep writes nothing.
 */
export const NOW = 'UTC_TIMESTAMP(3)';
/** The end of a term that begins now; its parameter is in microseconds. */
export const TERM_END = 'UTC_TIMESTAMP(3) + INTERVAL ? MICROSECOND';
export const microseconds = (milliseconds: number): number => Math.round(milliseconds * 1000);

/** Keeps claims alive while work goes on, and knows by this machine's own clock until when they are surely held. */
export class Heartbeat {
  private readonly timer: NodeJS.Timeout;
  private until: number;
  private lost = false;

  /**
   * @param taken `performance.now()` from before the claim was taken.
   * @param term milliseconds.
   * @param renew lengthens the claims; false where they are not held any more. What it throws counts as no answer.
   */
  constructor(
    taken: number,
    private readonly term: number,
    private readonly renew: () => Promise<boolean>,
  ) {
    this.until = taken + term;
    this.timer = setInterval(() => void this.beat(), term / 3).unref();
  }

  /** False once the claims may have been taken over, or are about to be; it does not become true again. */
  get held(): boolean {
    if (performance.now() >= this.until - this.term / 6) this.lost = true;
    return !this.lost;
  }

  stop(): void {
    clearInterval(this.timer);
  }

  private async beat(): Promise<void> {
    const began = performance.now();
    try {
      const renewed = await this.renew();
      // Where the answer came too late, others may have taken over before it was renewed.
      if (!renewed || !this.held) this.lost = true;
      else this.until = began + this.term;
    } catch {
      // The database does not answer; the term that is left still counts.
    }
  }
}
