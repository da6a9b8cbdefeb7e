/** What decides where a paper stands in a register. */
export interface OrderedPaper {
  readonly id: string;
  /** Of its entry in the roll. */
  readonly position: number;
  /** Its order among the papers of its entry. */
  readonly place: number;
  /** ISO 8601 in UTC; null where it is not pressed yet. */
  readonly pressedAt: string | null;
}

/** The order of a register: that of the roll, an entry's newest papers first, and what is not pressed yet last. */
export function comparePaperOrder(a: OrderedPaper, b: OrderedPaper): number {
  if (a.position !== b.position) return a.position - b.position;
  if (a.place !== b.place) return a.place - b.place;
  // In UTC the order of the text is that of time.
  const one = a.pressedAt ?? '';
  const other = b.pressedAt ?? '';
  if (one !== other) return one < other ? 1 : -1;
  return a.id < b.id ? -1 : 1;
}
