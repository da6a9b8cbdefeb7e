import type { FolioEvents } from '../folio-events.js';

interface Place {
  readonly schoolId: string;
  readonly folioId: string;
}

/** Who hears of answers. */
export interface AnswersHears {
  /** The roll has become another one. */
  readonly changed: (schoolId: string, folioId: string) => void;
  /** A standing order has something to do. */
  readonly owed: (place: Place) => void;
  /** Whoever answered gets a copy. */
  readonly copy: () => void;
}

/** Milliseconds between two times that desks of a folio are told. */
const TOLD_EVERY = 700;

/** Tells desks of answers: at once, and of more that come soon after together. Orders hear of each at once. */
export class AnswerNews {
  /** Folios whose desks were told a moment ago, and whether there was more since. */
  private readonly telling = new Map<string, { more: boolean }>();

  constructor(
    private readonly events: FolioEvents,
    private readonly hears: AnswersHears,
  ) {}

  /** @param owed true where standing orders have something to do. */
  came(place: Place, { owed, copy }: { owed: boolean; copy: boolean }): void {
    if (owed) this.hears.owed(place);
    if (copy) this.hears.copy();
    this.tell(place);
  }

  private tell(place: Place): void {
    const { schoolId, folioId } = place;
    const telling = this.telling.get(folioId);
    if (telling) {
      telling.more = true;
      return;
    }
    const own = { more: false };
    this.telling.set(folioId, own);
    this.events.tell(folioId, { kind: 'roll', desk: null });
    this.hears.changed(schoolId, folioId);
    setTimeout(() => {
      this.telling.delete(folioId);
      if (own.more) this.tell(place);
    }, TOLD_EVERY).unref();
  }
}
