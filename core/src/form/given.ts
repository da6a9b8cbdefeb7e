/** What people gave, by column: a text, or several for several choices and files. */
export type Given = Readonly<Record<string, string | readonly string[]>>;

/** Marks something that was written instead of one of the choices. */
export const OTHER = 'other:';

/** What says of an item in which columns its answers stand. */
interface ItemColumns {
  readonly kind: string;
  readonly id: string;
  readonly columnId?: string | undefined;
  readonly rows?: readonly { readonly id: string }[];
  readonly givenId?: string;
  readonly familyId?: string;
}

/** The columns that an item's answers stand in. */
export function columnIdsOf(item: ItemColumns): string[] {
  switch (item.kind) {
    case 'section':
    case 'page':
    case 'words':
    case 'picture':
      return [];
    case 'grid':
      return item.rows!.map(({ id }) => id);
    case 'name':
      return [item.givenId!, item.familyId!];
    default:
      return [item.columnId ?? item.id];
  }
}

export const oneGiven = (given: Given, columnId: string): string => {
  const value = own(given, columnId);
  return typeof value === 'string' ? value : (value[0] ?? '');
};
export const allGiven = (given: Given, columnId: string): readonly string[] => {
  const value = own(given, columnId);
  return typeof value === 'string' ? (value === '' ? [] : [value]) : value;
};

const own = (given: Given, columnId: string): string | readonly string[] =>
  (Object.hasOwn(given, columnId) ? given[columnId] : undefined) ?? '';
