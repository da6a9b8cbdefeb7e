/** What waits for its turn, and for whom. */
export interface Waiting {
  /** Who it is done for; those who ask for little do not wait behind those who ask for much. */
  readonly tenant: string;
}

/**
 * A queue in which tenants take turns: with one that has a thousand tasks waiting and one that has a single one, the
 * single one comes second. A tenant's own tasks stay in their order.
 */
export class FairQueue<T extends Waiting> {
  private readonly lines = new Map<string, T[]>();
  size = 0;

  push(item: T): void {
    const line = this.lines.get(item.tenant);
    if (line) line.push(item);
    else this.lines.set(item.tenant, [item]);
    this.size++;
  }

  /** Puts an item back in front of its tenant's others. */
  putBack(item: T): void {
    const line = this.lines.get(item.tenant);
    if (line) line.unshift(item);
    else this.lines.set(item.tenant, [item]);
    this.size++;
  }

  /** Takes an item out. @returns false where it does not wait any more. */
  remove(item: T): boolean {
    const line = this.lines.get(item.tenant) ?? [];
    const at = line.indexOf(item);
    if (at < 0) return false;
    line.splice(at, 1);
    if (line.length === 0) this.lines.delete(item.tenant);
    this.size--;
    return true;
  }

  /** How many items of this tenant wait. */
  of(tenant: string): number {
    return this.lines.get(tenant)?.length ?? 0;
  }

  /** Takes the next item of the tenant whose turn it is among those that may; undefined where there is none. */
  take(may: (tenant: string) => boolean): T | undefined {
    for (const [tenant, line] of this.lines) {
      if (!may(tenant)) continue;
      const item = line.shift()!;
      this.lines.delete(tenant);
      if (line.length > 0) this.lines.set(tenant, line);
      this.size--;
      return item;
    }
    return undefined;
  }

  /** Takes all. */
  clear(): T[] {
    const all = [...this.lines.values()].flat();
    this.lines.clear();
    this.size = 0;
    return all;
  }
}
