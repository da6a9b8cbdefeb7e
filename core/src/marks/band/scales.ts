import type { Band } from '../../column/index.js';

/** A scale to begin with. Every school has its own; all of these can be changed. */
export interface Scale {
  readonly id: string;
  readonly name: string;
  readonly basis: 'thresholds' | 'shares';
  readonly bands: readonly Omit<Band, 'id'>[];
}

const steps = (...bands: [label: string, from: string | null, points?: string][]): Omit<Band, 'id'>[] =>
  bands.map(([label, from, points]) => ({ label, from, ...(points === undefined ? {} : { points }) }));

const passing = (from: string, bands: Omit<Band, 'id'>[]): Omit<Band, 'id'>[] =>
  bands.map((band) => ({ ...band, pass: band.from !== null && Number(band.from) >= Number(from) }));

/**
 * Scales that are ready to use. The thresholds are common practice without a published source, but for the shares of the
 * ECTS scale (10, 25, 30, 25 and 10 percent: ECTS Users' Guide 2005, from memory).
 */
export const SCALES: readonly Scale[] = [
  {
    id: 'letters',
    name: 'Letters A to F',
    basis: 'thresholds',
    bands: passing('60', steps(['A', '90'], ['B', '80'], ['C', '70'], ['D', '60'], ['F', null])),
  },
  {
    id: 'letters-signs',
    name: 'Letters with plus and minus, 4.0 grade points',
    basis: 'thresholds',
    bands: passing(
      '60',
      steps(
        ['A', '93', '4.0'],
        ['A−', '90', '3.7'],
        ['B+', '87', '3.3'],
        ['B', '83', '3.0'],
        ['B−', '80', '2.7'],
        ['C+', '77', '2.3'],
        ['C', '73', '2.0'],
        ['C−', '70', '1.7'],
        ['D+', '67', '1.3'],
        ['D', '63', '1.0'],
        ['D−', '60', '0.7'],
        ['F', null, '0'],
      ),
    ),
  },
  {
    id: '1-6',
    name: '1 to 6, 1 best',
    basis: 'thresholds',
    bands: passing(
      '50',
      steps(
        ['1', '92', '1'],
        ['2', '81', '2'],
        ['3', '67', '3'],
        ['4', '50', '4'],
        ['5', '30', '5'],
        ['6', null, '6'],
      ),
    ),
  },
  {
    id: '1-10',
    name: '1 to 10, 10 best',
    basis: 'thresholds',
    bands: passing(
      '55',
      steps(
        ['10', '95', '10'],
        ['9', '85', '9'],
        ['8', '75', '8'],
        ['7', '65', '7'],
        ['6', '55', '6'],
        ['5', '45', '5'],
        ['4', '35', '4'],
        ['3', '25', '3'],
        ['2', '15', '2'],
        ['1', null, '1'],
      ),
    ),
  },
  {
    id: '0-20',
    name: '0 to 20 points, a point for each five percent',
    basis: 'thresholds',
    bands: passing(
      '50',
      steps(
        ...Array.from({ length: 21 }, (_, n): [string, string | null, string] => {
          const points = String(20 - n);
          return [points, n === 20 ? null : String((20 - n) * 5), points];
        }),
      ),
    ),
  },
  {
    id: 'honours',
    name: 'Honours',
    basis: 'thresholds',
    bands: passing(
      '50',
      steps(
        ['Highest honours', '90'],
        ['High honours', '80'],
        ['Honours', '70'],
        ['Satisfactory', '60'],
        ['Pass', '50'],
        ['Not yet', null],
      ),
    ),
  },
  {
    id: '9-1',
    name: '9 to 1, 9 best',
    basis: 'thresholds',
    bands: passing(
      '40',
      steps(
        ['9', '85', '9'],
        ['8', '77', '8'],
        ['7', '70', '7'],
        ['6', '60', '6'],
        ['5', '50', '5'],
        ['4', '40', '4'],
        ['3', '30', '3'],
        ['2', '20', '2'],
        ['1', '10', '1'],
        ['U', null, '0'],
      ),
    ),
  },
  {
    id: 'words',
    name: 'Words',
    basis: 'thresholds',
    bands: passing(
      '50',
      steps(['Excelling', '85'], ['Secure', '65'], ['Developing', '50'], ['Beginning', null]),
    ),
  },
  {
    id: 'pass',
    name: 'Pass or not',
    basis: 'thresholds',
    bands: passing('50', steps(['Pass', '50'], ['Not yet', null])),
  },
  {
    id: 'shares',
    name: 'Relative: the best 10 %, then 25, 30, 25 and 10 %',
    basis: 'shares',
    bands: [
      { label: 'A', from: null, share: '10' },
      { label: 'B', from: null, share: '25' },
      { label: 'C', from: null, share: '30' },
      { label: 'D', from: null, share: '25' },
      { label: 'E', from: null, share: '10' },
    ],
  },
];
