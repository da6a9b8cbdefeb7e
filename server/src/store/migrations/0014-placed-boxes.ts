import type { MigrationInterface, QueryRunner } from 'typeorm';

interface Kept {
  readonly id: string;
  readonly content: string | { pages: unknown; boxes: object[] };
}

/**
 * Placed templates have boxes of several kinds, and pages with what lies under them. Before, all boxes were text, and only
 * the number of pages was kept.
 */
export class PlacedBoxes1765300000000 implements MigrationInterface {
  name = 'PlacedBoxes1765300000000';

  async up(runner: QueryRunner): Promise<void> {
    await change(runner, ({ pages, boxes, ...rest }) => ({
      ...rest,
      pages: typeof pages === 'number' ? Array.from({ length: pages }, () => ({})) : pages,
      boxes: boxes.map((box) => ({ kind: 'text', ...box })),
    }));
  }

  async down(runner: QueryRunner): Promise<void> {
    await change(runner, ({ pages, boxes, ...rest }) => ({
      ...rest,
      pages: Array.isArray(pages) ? pages.length : pages,
      boxes: boxes.filter((box) => 'body' in box),
    }));
  }
}

interface Content {
  pages: unknown;
  boxes: object[];
}

async function change(runner: QueryRunner, changed: (content: Content) => object): Promise<void> {
  for (const [table, found] of [
    ['writing', "SELECT id, content FROM writing WHERE kind = 'placed'"],
    [
      'writing_version',
      "SELECT v.id, v.content FROM writing_version v JOIN writing w ON w.id = v.writingId WHERE w.kind = 'placed'",
    ],
  ] as const) {
    const rows = (await runner.query(found)) as Kept[];
    for (const { id, content } of rows) {
      const read = (typeof content === 'string' ? JSON.parse(content) : content) as Content;
      await runner.query(`UPDATE ${table} SET content = ? WHERE id = ?`, [JSON.stringify(changed(read)), id]);
    }
  }
}
