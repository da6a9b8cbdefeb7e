import type { Placed } from '../template/index.js';
import { CertificateWriter, INK, italic, LYING, SLATE, UPRIGHT } from './certificate-pieces.js';
import type { Around } from './starter-pieces.js';

const WHY =
  'Say here in one or two sentences what this certificate is for: what was done, how long it took, and what was good about it.';

const words = (text: string) => ({ type: 'text' as const, text, marks: [italic] });

/** Fine lines in the manner of share certificates. */
export const engraved = (around: Around): Placed =>
  new CertificateWriter(around)
    .ornament('border', [10, 10, 277, 190], { pattern: 'interlace', size: 9, radius: 12 })
    .ornament('rosette', [78.5, 34, 140, 140], { pattern: 'petals', count: 12, strength: 0.17 })
    .school([98.5, 28, 100, 14], { size: 14, family: 'Cormorant Garamond' })
    .text([48.5, 50, 200, 17], ['Certificate of Merit'], {
      family: 'Cormorant Garamond',
      size: 38,
      spacing: 40,
      oneLine: true,
      least: 20,
      name: 'Title',
    })
    .text([48.5, 69, 200, 8], [words('given with pleasure to')], { size: 14, colour: SLATE })
    .name([38.5, 78, 220, 24], { family: 'Pinyon Script', size: 48, colour: '#1D6B61', least: 20 })
    .ornament('divider', [93.5, 104, 110, 5], { pattern: 'diamond', weight: 0.25 }, false)
    .text([66, 113, 165, 27], [WHY], { size: 14, least: 9, name: 'What it is for' })
    .signature([52, 150, 72, 27], 'Head of the school')
    .day([173, 150, 72, 27], around.school)
    .placed('Certificate, engraved', LYING, { pages: [{ colour: '#FDFCF8' }] });

/** A bar of colour and large plain type; everything keeps to the left. */
export const plain = (around: Around): Placed =>
  new CertificateWriter(around)
    .shape([0, 0, 14, 210], 'rectangle', '#1D6B61')
    .shape([14, 0, 2, 210], 'rectangle', '#C9A45C')
    .school([36, 22, 120, 9], { size: 13, family: 'Work Sans', align: 'left', colour: SLATE })
    .text([36, 47, 180, 9], ['CERTIFICATE'], {
      family: 'Work Sans',
      size: 13,
      spacing: 240,
      align: 'left',
      colour: '#1D6B61',
      oneLine: true,
      least: 9,
      name: 'Title',
    })
    .name([36, 58, 232, 28], { family: 'Work Sans', size: 46, align: 'left', least: 18 })
    .text([36, 92, 150, 40], [WHY], {
      family: 'Work Sans',
      size: 14,
      align: 'left',
      leading: 75,
      least: 9,
      name: 'What it is for',
    })
    .signature([36, 156, 74, 27], 'Head of the school', 'left')
    .day([126, 156, 60, 27], around.school, 'left')
    .ornament('seal', [222, 138, 46, 46], {
      pattern: 'pointed',
      count: 48,
      colour: '#1D6B61',
      second: '#C9A45C',
      weight: 0.25,
    })
    .placed('Certificate, plain', LYING, { font: { family: 'Work Sans', size: 12 } });

/** Double rules, curls in the corners, capitals as on stone. */
export const classical = (around: Around): Placed =>
  new CertificateWriter(around)
    .ornament('border', [11, 11, 275, 188], {
      pattern: 'rules',
      size: 5,
      radius: 0,
      colour: '#35588A',
      second: '#8F5B0C',
      weight: 0.3,
    })
    .ornament('corners', [19, 19, 259, 172], {
      pattern: 'curl',
      size: 34,
      colour: '#35588A',
      second: '#8F5B0C',
      weight: 0.45,
    })
    .school([98.5, 30, 100, 14], { size: 14, family: 'Cinzel' })
    .text([38.5, 51, 220, 17], ['Certificate of Honour'], {
      family: 'Cinzel',
      size: 31,
      colour: '#35588A',
      oneLine: true,
      least: 18,
      name: 'Title',
    })
    .text([48.5, 72, 200, 8], [words('This is to say that')], { size: 14, colour: SLATE })
    .name([38.5, 81, 220, 20], { family: 'EB Garamond', size: 40, least: 16 })
    .ornament(
      'divider',
      [108.5, 103, 80, 5],
      { pattern: 'curls', colour: '#8F5B0C', second: '#8F5B0C', weight: 0.3 },
      false,
    )
    .text([66, 112, 165, 27], [WHY], { size: 14, least: 9, name: 'What it is for' })
    .signature([52, 148, 72, 27], 'Head of the school')
    .day([173, 148, 72, 27], around.school)
    .placed('Certificate, classical', LYING, {});

/** Leaves all around, a laurel, warm colours. */
export const garden = (around: Around): Placed =>
  new CertificateWriter(around)
    .ornament('border', [10, 10, 190, 277], {
      pattern: 'leaves',
      size: 11,
      radius: 14,
      colour: '#3E6B3A',
      second: '#B4762A',
      weight: 0.3,
    })
    .ornament('laurel', [70, 36, 70, 64], {
      pattern: 'leaves',
      count: 11,
      colour: '#3E6B3A',
      second: '#7C9A52',
      weight: 0.3,
    })
    .text([79, 57, 52, 20], ['Well', { type: 'hardBreak' }, 'done'], {
      family: 'Lora',
      size: 20,
      colour: '#3E6B3A',
      leading: 35,
      vertical: 'middle',
      least: 10,
      name: 'In the laurel',
    })
    .text([35, 112, 140, 8], [words('This certificate goes to')], { family: 'Lora', size: 13, colour: SLATE })
    .name([30, 122, 150, 22], { family: 'Dancing Script', size: 40, colour: '#8A4B1F', least: 16 })
    .ornament(
      'divider',
      [65, 146, 80, 5],
      { pattern: 'dots', colour: '#3E6B3A', second: '#B4762A', weight: 0.3 },
      false,
    )
    .text([38, 158, 134, 50], [WHY], {
      family: 'Lora',
      size: 13,
      leading: 70,
      least: 9,
      name: 'What it is for',
    })
    .signature([32, 222, 64, 27], 'Class teacher')
    .day([114, 222, 64, 27], around.school)
    .school([55, 254, 100, 8], { size: 11, family: 'Lora', colour: SLATE })
    .placed('Certificate, garden', UPRIGHT, {
      font: { family: 'Lora', size: 12 },
      pages: [{ colour: '#FFFDF7' }],
    });

/** For the youngest: round, bright and friendly. */
export const merry = (around: Around): Placed => {
  const dots: readonly (readonly [number, number, number, string])[] = [
    [20, 22, 14, '#E9B44C'],
    [40, 14, 7, '#A63D40'],
    [16, 46, 6, '#35588A'],
    [262, 20, 15, '#35588A'],
    [248, 14, 7, '#E9B44C'],
    [274, 45, 7, '#1D6B61'],
    [18, 170, 12, '#1D6B61'],
    [38, 184, 7, '#E9B44C'],
    [14, 154, 5, '#A63D40'],
    [264, 172, 14, '#A63D40'],
    [248, 186, 6, '#35588A'],
    [276, 156, 6, '#E9B44C'],
  ];
  const writer = new CertificateWriter(around);
  for (const [x, y, size, colour] of dots) writer.shape([x, y, size, size], 'ellipse', colour);
  return writer
    .ornament('waves', [58.5, 14, 180, 12], {
      pattern: 'braid',
      count: 9,
      colour: '#35588A',
      second: '#A63D40',
      weight: 0.5,
    })
    .text([48.5, 36, 200, 22], ['Hooray!'], {
      family: 'Nunito Sans',
      size: 48,
      colour: '#A63D40',
      oneLine: true,
      least: 24,
      name: 'Title',
    })
    .text([48.5, 62, 200, 9], ['This certificate belongs to'], { family: 'Nunito Sans', size: 15 })
    .name([38.5, 72, 220, 26], { family: 'Nunito Sans', size: 44, colour: '#35588A', least: 18 })
    .text([66, 104, 165, 30], [WHY], {
      family: 'Nunito Sans',
      size: 15,
      leading: 70,
      least: 10,
      name: 'What it is for',
    })
    .ornament('seal', [128.5, 138, 40, 54], {
      pattern: 'ribbons',
      count: 24,
      colour: '#A63D40',
      second: '#E9B44C',
      weight: 0.45,
    })
    .signature([56, 152, 62, 27], 'Class teacher')
    .day([179, 152, 62, 27], around.school)
    .placed('Certificate, merry', LYING, { font: { family: 'Nunito Sans', size: 13 } });
};

/** Stepped corners and tall letters, upright. */
export const stepped = (around: Around): Placed =>
  new CertificateWriter(around)
    .ornament('corners', [12, 12, 186, 273], {
      pattern: 'steps',
      size: 52,
      colour: '#5B3A78',
      second: '#B08D3C',
      weight: 0.5,
    })
    .ornament('rosette', [45, 88, 120, 120], {
      pattern: 'star',
      count: 24,
      colour: '#5B3A78',
      second: '#B08D3C',
      weight: 0.15,
      strength: 0.16,
    })
    .school([55, 34, 100, 14], { size: 13, family: 'Playfair Display' })
    .text([25, 66, 160, 30], ['Award'], {
      family: 'Playfair Display',
      size: 54,
      colour: '#5B3A78',
      spacing: 20,
      oneLine: true,
      least: 28,
      name: 'Title',
    })
    .ornament(
      'divider',
      [65, 99, 80, 5],
      { pattern: 'taper', colour: '#B08D3C', second: '#B08D3C', weight: 0.3 },
      false,
    )
    .text([35, 110, 140, 8], [words('presented to')], { family: 'Playfair Display', size: 13, colour: SLATE })
    .name([25, 122, 160, 24], { family: 'Playfair Display', size: 36, least: 14 })
    .text([40, 152, 130, 48], [WHY], {
      family: 'Playfair Display',
      size: 12.5,
      leading: 75,
      least: 8.5,
      name: 'What it is for',
    })
    .signature([34, 218, 62, 27], 'Head of the school')
    .day([114, 218, 62, 27], around.school)
    .placed('Certificate, stepped', UPRIGHT, { font: { family: 'Playfair Display', size: 12 } });

/** A laurel with a number in it, for sports and competitions. */
export const victory = (around: Around): Placed =>
  new CertificateWriter(around)
    .shape([0, 0, 297, 26], 'rectangle', '#A63D40')
    .shape([0, 26, 297, 1.6], 'rectangle', INK)
    .text([20, 5, 257, 16], ['VICTORY'], {
      family: 'Work Sans',
      size: 30,
      colour: '#FFFFFF',
      spacing: 300,
      oneLine: true,
      least: 16,
      vertical: 'middle',
      name: 'Title',
    })
    .ornament('laurel', [26, 46, 92, 84], {
      pattern: 'oak',
      count: 12,
      colour: '#A63D40',
      second: '#C77B3F',
      weight: 0.3,
    })
    .text([47, 66, 50, 40], ['1st'], {
      family: 'Work Sans',
      size: 54,
      colour: INK,
      vertical: 'middle',
      oneLine: true,
      least: 20,
      name: 'Place',
    })
    .text([132, 44, 145, 8], ['Awarded to'], { family: 'Work Sans', size: 13, align: 'left', colour: SLATE })
    .name([132, 54, 145, 24], { family: 'Work Sans', size: 36, align: 'left', least: 15 })
    .rule([132, 82, 60, 0], '#A63D40', 1.2)
    .text([132, 89, 140, 44], [WHY], {
      family: 'Work Sans',
      size: 13,
      align: 'left',
      leading: 75,
      least: 9,
      name: 'What it is for',
    })
    .signature([132, 152, 66, 27], 'Head of sports', 'left')
    .day([211, 152, 60, 27], around.school, 'left')
    .school([26, 163, 92, 10], { size: 13, family: 'Work Sans' })
    .placed('Certificate, victory', LYING, { font: { family: 'Work Sans', size: 12 } });

/** Nothing but words, for paper that is printed with a border already. */
export const bare = (around: Around): Placed =>
  new CertificateWriter(around)
    .text([38.5, 62, 220, 17], ['Certificate'], {
      family: 'EB Garamond',
      size: 34,
      oneLine: true,
      least: 18,
      name: 'Title',
    })
    .name([38.5, 86, 220, 22], { family: 'EB Garamond', size: 40, least: 16 })
    .text([66, 114, 165, 30], [WHY], { size: 14, least: 9, name: 'What it is for' })
    .signature([52, 152, 72, 27], 'Head of the school')
    .day([173, 152, 72, 27], around.school)
    .placed('Certificate, words alone', LYING, {});
