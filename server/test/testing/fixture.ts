import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import mysql from 'mysql2/promise';
import { newDatabase } from './school.js';

/** A database as a former version of Scriptum left it (`fixtures/version-<n>.sql`, n migrations). @returns its URL. */
export async function databaseOfVersion(n: number): Promise<string> {
  const url = await newDatabase();
  const connection = await mysql.createConnection({ uri: url, multipleStatements: true });
  const file = fileURLToPath(new URL(`../fixtures/version-${n}.sql`, import.meta.url));
  await connection.query(readFileSync(file, 'utf8'));
  await connection.end();
  return url;
}
