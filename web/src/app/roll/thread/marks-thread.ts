import { Injectable } from '@angular/core';
import type { TableShape } from '@scriptum/core/marks';
import type { Roll, RollPatch } from '@scriptum/core/roll';
import { wrap } from 'comlink';
import type { WorkedTexts } from '../../state/worked-cells';
import type { MarksDesk } from './marks-desk';
import { sendInChunks, type Distant } from './roll-chunks';

/** The worker thread that works columns out. It starts when the first roll with worked columns comes. */
@Injectable({ providedIn: 'root' })
export class MarksThread {
  private remote: Distant<MarksDesk> | null = null;
  private loaded = false;

  desk(): Distant<MarksDesk> {
    this.remote ??= wrap<MarksDesk>(
      new Worker(new URL('./marks.worker', import.meta.url), { type: 'module' }),
    ) as unknown as Distant<MarksDesk>;
    return this.remote;
  }

  /** True once a roll is in the thread, so that changes to it are enough. */
  get ready(): boolean {
    return this.loaded;
  }

  /** Sends the whole roll, and gives all that it comes to. */
  async load(roll: Roll, tables: readonly TableShape[], today: string): Promise<WorkedTexts[]> {
    const desk = this.desk();
    this.loaded = false;
    await sendInChunks(desk, roll);
    const texts = await desk.begin(tables, today);
    this.loaded = true;
    return texts;
  }

  /** Makes a change there too. Null where the roll has to be sent anew. */
  change(patch: RollPatch): Promise<WorkedTexts[] | null> {
    return this.loaded ? this.desk().change(patch) : Promise.resolve(null);
  }

  /** What is in the thread is of no use any more. */
  forget(): void {
    this.loaded = false;
  }
}
