/** `Row 4 has`, `Rows 4, 7 and 9 have`, `Rows 4, 7, 9, 12, 15 and 12 more have`. */
export function rowsThat(rows: readonly number[], one: string, many: string, most = 5): string {
  if (rows.length === 1) return `Row ${rows[0]} ${one}`;
  const shown = rows.slice(0, most);
  const more = rows.length - shown.length;
  if (more > 0) return `Rows ${shown.join(', ')} and ${more} more ${many}`;
  return `Rows ${shown.slice(0, -1).join(', ')} and ${shown.at(-1)} ${many}`;
}
