/**
 * Levels of headings as ISO 14289-1, 7.4.2 wants them in the order of a document: the first is 1, and none goes down by more
 * than one. What a heading looks like is told apart from that.
 */
export class Outline {
  /** Looks of the headings that the next one may stand below, outermost first. */
  private readonly above: number[] = [];
  /** Levels that the last heading may have had: several where some may be left out. */
  private last = new Set([0]);

  /** @param mayVanish true for a heading that some papers do not have. */
  next(look: number, mayVanish: boolean): number {
    while (this.above.length > 0 && this.above.at(-1)! >= look) this.above.pop();
    this.above.push(look);
    const level = Math.min(this.above.length, Math.min(...this.last) + 1);
    if (mayVanish) this.last.add(level);
    else this.last = new Set([level]);
    return level;
  }
}
