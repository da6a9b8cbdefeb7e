/** What was found after trials of one kind; nothing may be lost or doubled. */
export class Findings {
  rounds = 0;
  lost = 0;
  doubled = 0;
  unconfirmed = 0;
  /** In one round, at the most. */
  most = 0;
  /** Of the unconfirmed ones, how many had arrived. */
  arrived = 0;
  slowest = 0;

  say(what: string, things: string): string {
    const unsure =
      this.unconfirmed > 0
        ? `, ${this.unconfirmed} unconfirmed, at most ${this.most} at a time (${this.arrived} of them had arrived)`
        : '';
    return `${what}: ${this.rounds} times, ${things}: ${this.lost} lost, ${this.doubled} doubled${unsure}; all was done ${(this.slowest / 1000).toFixed(1)} s after the kill at the latest`;
  }
}
