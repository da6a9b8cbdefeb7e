import fc from 'fast-check';

/**
 * Property tests try the same examples on each run, so that a failure comes from the change at hand.
 * `SCRIPTUM_TEST_SEED=7 npm test` tries others, and `SCRIPTUM_TEST_SEED=any` new ones each time.
 */
const seed = process.env['SCRIPTUM_TEST_SEED'] ?? '1123';
fc.configureGlobal(seed === 'any' ? {} : { seed: Number(seed) });
