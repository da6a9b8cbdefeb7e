import type { Column, Worked } from '../column/index.js';

/**
 * The order in which worked columns are worked out: each after those it stands on.
 *
 * @param inputs the columns that a worked column stands on.
 * @returns also the columns that stand on themselves, with the circle that each is in. A column that only stands on one of
 *   those is in the order as others are.
 */
export function workingOrder(
  columns: readonly Column[],
  inputs: (worked: Worked) => readonly string[],
): {
  order: string[];
  circular: Map<string, string[]>;
} {
  const byId = new Map(columns.map((column) => [column.id, column]));
  const order: string[] = [];
  const circular = new Map<string, string[]>();
  const done = new Set<string>();
  const path: string[] = [];
  const visit = (id: string): void => {
    const column = byId.get(id);
    if (!column || done.has(id)) return;
    const again = path.indexOf(id);
    if (again >= 0) {
      const circle = path.slice(again);
      circle.forEach((member, n) => circular.set(member, [...circle.slice(n), ...circle.slice(0, n)]));
      return;
    }
    path.push(id);
    for (const input of inputs(column.worked!)) visit(input);
    path.pop();
    done.add(id);
    order.push(id);
  };
  for (const { id } of columns) visit(id);
  return { order, circular };
}
