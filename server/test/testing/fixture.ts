import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { newId } from '@scriptum/server/store/id';
import mysql from 'mysql2/promise';

/** A database as a former version of Scriptum left it (`fixtures/version-<n>.sql`, n migrations). @returns its URL. */
export async function databaseOfVersion(n: number): Promise<string> {
  const base = process.env['TEST_DATABASE_URL']!;
  const name = `test_${newId()}`;
  const connection = await mysql.createConnection({ uri: base, multipleStatements: true });
  await connection.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci`);
  await connection.query(`USE ${name}`);
  const sql = readFileSync(fileURLToPath(new URL(`../fixtures/version-${n}.sql`, import.meta.url)), 'utf8');
  await connection.query(sql);
  await connection.end();
  return base.replace(/[^/]+$/, name);
}
