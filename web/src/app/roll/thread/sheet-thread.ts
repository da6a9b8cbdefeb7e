import { Injectable } from '@angular/core';
import type { Roll } from '@scriptum/core/roll';
import type { Result } from '@scriptum/core/table';
import { wrap } from 'comlink';
import { RollThere, type Distant } from './roll-chunks';
import type { OpenedView, SheetDesk } from './sheet-desk';

const kindOf = (name: string): 'text' | 'workbook' => (/\.(csv|tsv|txt)$/i.test(name) ? 'text' : 'workbook');

/** The worker thread that reads sheets. It starts when it is first needed; stopping it ends whatever it is doing. */
@Injectable({ providedIn: 'root' })
export class SheetThread {
  private worker: Worker | null = null;
  private remote: Distant<SheetDesk> | null = null;
  private there: RollThere<Distant<SheetDesk>> | null = null;
  /** Milliseconds for a byte. A workbook is packed, and so takes longer than it looks. */
  private readonly pace = { text: 1e-4, workbook: 6e-4 };
  /** The file that is being brought in; bytes do not belong into the store. */
  file: File | null = null;

  desk(): Distant<SheetDesk> {
    if (!this.remote) {
      this.worker = new Worker(new URL('./sheet.worker', import.meta.url), { type: 'module' });
      this.remote = wrap<SheetDesk>(this.worker) as unknown as Distant<SheetDesk>;
    }
    return this.remote;
  }

  /** Does work over a roll, of which the thread keeps a copy. */
  withRoll<T>(roll: Roll, work: (desk: Distant<SheetDesk>) => Promise<T>): Promise<T> {
    this.there ??= new RollThere(this.desk());
    return this.there.with(roll, work);
  }

  /** Reads a file, and remembers how long one of its kind takes. */
  async open(file: File): Promise<Result<OpenedView>> {
    const began = performance.now();
    const bytes = await file.arrayBuffer();
    // The bytes that were looked at are those that will be sent, whatever becomes of the file on the disk meanwhile.
    this.file = new File([bytes], file.name, { type: file.type });
    const opened = await this.desk().open(bytes);
    if (file.size > 100_000) this.pace[kindOf(file.name)] = (performance.now() - began) / file.size;
    return opened;
  }

  /** Milliseconds that a file will take, by what those before took. */
  expected(name: string, bytes: number): number {
    return this.pace[kindOf(name)] * bytes;
  }

  stop(): void {
    this.worker?.terminate();
    this.worker = null;
    this.remote = null;
    this.there = null;
  }
}
