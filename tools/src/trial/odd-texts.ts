/** A repeatable source of numbers in [0, 1): mulberry32 (public domain, by T. Ettinger). */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** Ranges of Unicode that shape unlike Latin: marks, joiners, direction signs, Indic and South-East Asian scripts. */
const RANGES: readonly (readonly [number, number])[] = [
  [0x20, 0x7e],
  [0xa0, 0x24f],
  [0x300, 0x36f],
  [0x370, 0x3ff],
  [0x400, 0x4ff],
  [0x591, 0x5f4],
  [0x600, 0x6ff],
  [0x700, 0x74f],
  [0x900, 0x97f],
  [0x980, 0x9ff],
  [0xa00, 0xaff],
  [0xb00, 0xbff],
  [0xc00, 0xcff],
  [0xd00, 0xd7f],
  [0xd80, 0xdff],
  [0xe00, 0xeff],
  [0xf00, 0xfff],
  [0x1000, 0x109f],
  [0x1100, 0x11ff],
  [0x1780, 0x17ff],
  [0x1800, 0x18af],
  [0x1a20, 0x1aff],
  [0x200b, 0x200f],
  [0x2028, 0x202e],
  [0x2060, 0x206f],
  [0x20d0, 0x20f0],
  [0x2190, 0x21ff],
  [0x3000, 0x30ff],
  [0x4e00, 0x4fff],
  [0xa8e0, 0xa8ff],
  [0xac00, 0xad00],
  [0xfb1d, 0xfdff],
  [0xfe00, 0xfe0f],
  [0xfff0, 0xffff],
  [0x11000, 0x1107f],
  [0x11300, 0x1137f],
  [0x1e900, 0x1e95f],
  [0x1f000, 0x1f9ff],
  [0xe0000, 0xe007f],
];

/** A text that no form answer is likely to hold: long runs, marks without letters, mixed scripts and directions. */
export function oddText(random: () => number): string {
  const whole = (most: number): number => Math.floor(random() * most);
  const sign = (): string => {
    const [from, to] = RANGES[whole(RANGES.length)]!;
    return String.fromCodePoint(from + whole(to - from + 1));
  };
  switch (whole(5)) {
    case 0:
      return sign().repeat(1 + whole(6000));
    case 1:
      return (sign() + sign()).repeat(1 + whole(3000));
    case 2: {
      const [from, to] = RANGES[whole(RANGES.length)]!;
      return Array.from({ length: 1 + whole(3000) }, () =>
        String.fromCodePoint(from + whole(to - from + 1)),
      ).join('');
    }
    case 3:
      return Array.from({ length: 1 + whole(800) }, sign).join('');
    default: {
      const pieces = Array.from({ length: 2 + whole(6) }, () => sign().repeat(1 + whole(40)));
      return Array.from({ length: 1 + whole(200) }, () => pieces[whole(pieces.length)]!).join(
        random() < 0.5 ? '' : ' ',
      );
    }
  }
}
