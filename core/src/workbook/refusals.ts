import { refuse, type Result } from '../table/index.js';

export const damaged = (): Result<never> => refuse('file-damaged');

export const protectedFile = (): Result<never> => refuse('file-protected');
