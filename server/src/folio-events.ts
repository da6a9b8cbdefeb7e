import { EventEmitter } from 'node:events';

/** What a desk is told about as it happens. */
export type FolioNews =
  | { readonly kind: 'run' }
  | { readonly kind: 'dispatch' }
  /** `desk` names the window that did it, where it said so. */
  | { readonly kind: 'roll'; readonly desk: string | null }
  | { readonly kind: 'writing'; readonly writingId: string; readonly desk: string | null };

/** Tells open desks that something of their folio changed; they ask for the new state themselves. */
export class FolioEvents {
  private readonly emitter = new EventEmitter().setMaxListeners(0);

  tell(folioId: string, news: FolioNews): void {
    this.emitter.emit(folioId, news);
  }

  /** @returns a function that ends the listening. */
  listen(folioId: string, listener: (news: FolioNews) => void): () => void {
    this.emitter.on(folioId, listener);
    return () => this.emitter.off(folioId, listener);
  }
}
