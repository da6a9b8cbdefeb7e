import { rm } from 'node:fs/promises';

export default async function stop() {
  const { folder, database } = globalThis.scriptumTestDatabase;
  await database.stop();
  await rm(folder, { recursive: true, force: true });
}
