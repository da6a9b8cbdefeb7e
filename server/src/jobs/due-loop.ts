/** Looks every so often, and whenever it is told to, for what is due; one look at a time. */
export class DueLoop {
  private timer: NodeJS.Timeout | null = null;
  private looking: Promise<void> | null = null;

  /**
   * @param poll milliseconds between two looks.
   * @param offer offers what is due now.
   * @param report hears why that did not work.
   */
  constructor(
    private readonly poll: number,
    private readonly offer: () => Promise<void>,
    private readonly report: (error: unknown) => void,
  ) {}

  async open(): Promise<void> {
    this.timer = setInterval(() => void this.look(), this.poll).unref();
    await this.look();
  }

  async close(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.looking;
  }

  /** Something may be due now. Never rejects. */
  look(): Promise<void> {
    this.looking ??= this.offer()
      .catch(this.report)
      .finally(() => (this.looking = null));
    return this.looking;
  }
}
