import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { format, resolveConfig } from 'prettier';
import { coverageTable } from './coverage.js';

const file = fileURLToPath(new URL('../../core/src/page/coverage-table.ts', import.meta.url));
writeFileSync(file, await format(coverageTable(), { ...(await resolveConfig(file)), parser: 'typescript' }));
