import { createHash } from 'node:crypto';
import type { MigrationInterface, QueryRunner } from 'typeorm';

const id = 'VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin';
const hash = 'CHAR(64) CHARACTER SET ascii COLLATE ascii_bin';
const SIZES = { A4: [210, 297], Letter: [215.9, 279.4] } as const;
const TOGETHER = 400;

/**
 * Pages have a width and a height in millimetres. How a paper looks is told apart from what its file is called, and worked
 * out for the papers that there are from what they were made from. A run may press from several templates.
 */
export class Looks1764500000000 implements MigrationInterface {
  name = 'Looks1764500000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [name, [width, height]] of Object.entries(SIZES))
      for (const [table, of] of [
        ['writing', "kind = 'letter'"],
        ['writing_version', "JSON_VALUE(content, '$.kind') = 'letter'"],
      ] as const)
        await runner.query(
          `UPDATE ${table} SET content = JSON_REMOVE(JSON_SET(content, '$.page.width', ${width}, '$.page.height', ${height}), '$.page.size')
           WHERE ${of} AND JSON_VALUE(content, '$.page.size') = '${name}'`,
        );
    await runner.query(
      `ALTER TABLE paper ADD COLUMN lookHash ${hash} NULL, ADD COLUMN place INT NOT NULL DEFAULT 0`,
    );
    await rememberLooks(runner);
    await runner.query(`UPDATE paper SET lookHash = inputHash WHERE lookHash IS NULL`);
    await runner.query(`ALTER TABLE paper MODIFY lookHash ${hash} NOT NULL, DROP COLUMN inputHash`);
    await runner.query('ALTER TABLE press_run DROP COLUMN templateId, DROP COLUMN templateVersion');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      `ALTER TABLE press_run ADD COLUMN templateId ${id} NOT NULL DEFAULT '', ADD COLUMN templateVersion INT NOT NULL DEFAULT 0`,
    );
    await runner.query(`UPDATE press_run r JOIN paper p ON p.runId = r.id
      SET r.templateId = p.templateId, r.templateVersion = p.templateVersion`);
    await runner.query(`ALTER TABLE paper ADD COLUMN inputHash ${hash} NOT NULL DEFAULT ''`);
    await runner.query('UPDATE paper SET inputHash = lookHash');
    await runner.query('ALTER TABLE paper DROP COLUMN lookHash, DROP COLUMN place');
    for (const [name, [width, height]] of Object.entries(SIZES))
      for (const table of ['writing', 'writing_version'])
        await runner.query(
          `UPDATE ${table} SET content = JSON_REMOVE(JSON_SET(content, '$.page.size', '${name}'), '$.page.width', '$.page.height')
           WHERE JSON_VALUE(content, '$.kind') = 'letter' AND JSON_VALUE(content, '$.page.width') = ${width}
             AND JSON_VALUE(content, '$.page.height') = ${height}`,
        );
  }
}

interface MadePaper {
  id: string;
  templateId: string;
  templateVersion: number;
  values: string;
}

async function rememberLooks(runner: QueryRunner): Promise<void> {
  const looks = new Map<string, string>();
  let last = '';
  for (;;) {
    const papers = (await runner.query(
      'SELECT id, templateId, templateVersion, `values` FROM paper WHERE id > ? ORDER BY id LIMIT ?',
      [last, TOGETHER],
    )) as MadePaper[];
    if (papers.length === 0) return;
    last = papers.at(-1)!.id;
    const rows: [string, string][] = [];
    for (const { id: paperId, templateId, templateVersion, values } of papers) {
      const key = `${templateId} ${templateVersion}`;
      let look = looks.get(key);
      if (look === undefined) {
        const [version] = (await runner.query(
          'SELECT content FROM writing_version WHERE writingId = ? AND version = ?',
          [templateId, templateVersion],
        )) as { content: string }[];
        // Of a letter that is gone nothing is pressed any more.
        looks.set(key, (look = version ? lookOf(JSON.parse(version.content) as OldLetter) : ''));
      }
      if (look) rows.push([paperId, sha256(canonical([look, JSON.parse(values), null]))]);
    }
    if (rows.length === 0) continue;
    const first = 'SELECT ? AS id, ? AS hash';
    await runner.query(
      `UPDATE paper p JOIN (${[first, ...rows.slice(1).map(() => 'SELECT ?, ?')].join(' UNION ALL ')}) v
         ON p.id = CAST(v.id AS CHAR CHARACTER SET ascii) COLLATE ascii_bin SET p.lookHash = v.hash`,
      rows.flat(),
    );
  }
}

// What follows is how looks were told when this migration was written; it does not change with the code elsewhere.

interface OldLetter {
  readonly fields: readonly { readonly id: string }[];
  readonly body: unknown;
}

function lookOf(letter: OldLetter): string {
  const used = new Set<string>();
  collect(letter.body, used);
  const fields = letter.fields.map((field) => field.id).filter((field) => used.has(field));
  return sha256(canonical({ ...letter, fields }));
}

function collect(node: unknown, used: Set<string>): void {
  if (Array.isArray(node)) for (const inner of node) collect(inner, used);
  else if (typeof node === 'object' && node !== null) {
    const { type, attrs, content } = node as {
      type?: string;
      attrs?: { fieldId?: string };
      content?: unknown;
    };
    if (type === 'field' && attrs?.fieldId) used.add(attrs.fieldId);
    collect(content, used);
  }
}

const sha256 = (text: string): string => createHash('sha256').update(text).digest('hex');

function canonical(value: unknown): string {
  return JSON.stringify(value, (_, inner: unknown) =>
    typeof inner === 'object' && inner !== null && !Array.isArray(inner)
      ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : 1)))
      : inner,
  );
}
