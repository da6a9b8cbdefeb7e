/** The parts of jstat that tests compare with; it ships no types. */
declare module 'jstat' {
  const jstat: {
    /** Quantiles by plotting positions, as in `mquantiles` of SciPy. */
    quantiles(values: number[], at: number[], alpha?: number, beta?: number): number[];
    /** Mean ranks, lowest first. */
    rank(values: number[]): number[];
    /** Share from 0 to 1 of the values below (`strict`), or at or below. */
    percentileOfScore(values: number[], score: number, kind: 'strict' | 'weak'): number;
  };
  export default jstat;
}
