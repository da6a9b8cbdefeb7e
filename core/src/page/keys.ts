export const partKey = (place: number): string => `p${place}`;

/** The key of a field's value in the program's inputs: its place in the letter's list, so that no typed text is a key. */
export const fieldKey = (place: number): string => `f${place}`;

/** The key of the table or chart that stands in a field's place. */
export const blockKey = (key: string): string => `${key}-block`;

/** The key of what a box needs besides fields: its place among the boxes. */
export const boxKey = (place: number): string => `b${place}`;
