import { EventEmitter } from 'node:events';

/** What a desk is told about as it happens. */
export type FolioNews =
  | { readonly kind: 'run' }
  | { readonly kind: 'dispatch' }
  /** A standing order has done something, or waits for somebody. */
  | { readonly kind: 'order' }
  | { readonly kind: 'watched' }
  /** A pack is asked for, or has come further. */
  | { readonly kind: 'pack' }
  /** More is known of what papers come to. */
  | { readonly kind: 'check' }
  /** Somebody has said of findings that they are right, or not any more. */
  | { readonly kind: 'seen'; readonly desk: string | null }
  /** `desk` names the window that did it, where it said so. */
  | { readonly kind: 'roll'; readonly desk: string | null }
  | { readonly kind: 'writing'; readonly writingId: string; readonly desk: string | null };

/** Tells open desks that something of their folio changed; they ask for the new state themselves. */
export class FolioEvents {
  private readonly emitter = new EventEmitter().setMaxListeners(0);
  private listeners = 0;
  /** Tells other server processes too. */
  share: ((folioId: string, news: FolioNews) => void) | null = null;

  /** True while a desk is open here. */
  get isHeard(): boolean {
    return this.listeners > 0;
  }

  tell(folioId: string, news: FolioNews): void {
    this.pass(folioId, news);
    this.share?.(folioId, news);
  }

  /** Tells the desks that are open at this server process. */
  pass(folioId: string, news: FolioNews): void {
    this.emitter.emit(folioId, news);
  }

  /** @returns a function that ends the listening. */
  listen(folioId: string, listener: (news: FolioNews) => void): () => void {
    this.emitter.on(folioId, listener);
    this.listeners++;
    let ended = false;
    return () => {
      if (!ended) this.listeners--;
      ended = true;
      this.emitter.off(folioId, listener);
    };
  }
}
