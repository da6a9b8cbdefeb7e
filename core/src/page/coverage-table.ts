// Made by `npm run coverage` from the fonts that ship. Not to be changed by hand.

/** Letters that every paper can print, packed (see `coverage`). */
export const COMMON =
  '0 d j.2n x.k7 3.5 5.6 2 2.j 2.1q f.8v 2.11 3.1d 3.2 2.1i 9.q 5.5 o.1 3.2 3 6 4 2.p 3 3.o 2.1 5.h 3 5 3 2 3 4.1 2.1 8 2 2.1 2 2 6.1 3 5.4 2 6 5 2.2 2.3 3.a 2.3 7.2 b 7.9 7.d 2.1n 3.2 j.1 t.1d f.1m 3.2 75.3n 2.7 3.1 3.l 2.6 2 4.3 3.8 3.1 3.3 9 5.1 2.4 3.o 3.2 2.5 5.1 3.l 2.6 2.1 2.1 2.1 3 2.4 5.1 3.2 4 8.3 2 8.g b.2 2.8 2.2 2.l 2.6 2.1 2.4 3.9 2.2 2.2 3 g.3 3.b 8.6 2.2 2.7 3.1 3.l 2.6 2.1 2.4 3.8 3.1 3.2 8.2 5.1 2.4 3.h b.1 2.5 4.2 2.3 4.1 2 2.1 4.1 4.2 4.b 5.4 4.2 2.3 3 7 f.k 6.c 2.2 2.m 2.f 3.8 2.2 2.3 8.1 2.2 3 3.3 3.9 8.l 2.2 2.m 2.9 2.4 3.8 2.2 2.3 8.1 7.1 2.3 3.9 2.2 d.c 2.2 2.1e 2.2 2.5 5.f 3.p 2.2 2.h 4.n 2.8 2 3.6 4 5.5 2 2.7 7.9 3.2 d.1l 5.s 12.1 2 2.4 2.n 2 2.m 3.4 2 2.6 2.9 3.3 x.1z 2.z 5.12 2.z 2.e 2.c 12.5h 2 6 3.ag 2.3 3.6 2 2.3 3.14 2.3 3.w 2.3 3.6 2 2.3 3.e 2.1k 2.3 3.1u 3.v 4.p rr.2l 3.9 7.9 7.p 7.2g 8.16 8m.v 4x.g 5 2.7 c2.8 8.16 3.2 h.15 7.6x 2.7u 3.5 3.11 3.5 3.7 2 2 2 2.u 3.1g 2.e 2.d 3.5 2.i 3.2 2.8 2.2s 2.b 3.q 2.c 4.w t.3 2.2 c g.3v 5.9 g.1 5 9.1 b.2 5.1 4 2 2 i.a 3 2 b 2.1 2.6 3.1 2.2 2 3.2 3.3 3 2.9 6.3 6 6 2 3 4 k.2 2.3 3.1 3.1 3.1 3.1 b.5 3.1 a.4 7 5 q 5.2 k.1 j.1 h.f 2.7 2.5 3.j 1y.p 2.4 l.2 d.t 7.1w q.a m.nz 1t.73 y.1 i.1 24 1q 18 f.1 79.d 5.t u.12 3.v 2.2u 2 2p.v 3l.11 2 6 2b.m a.6 2.6 2.6 2.6 2.6 2.6 2.6 2.6 2.3h z.p 2.2g d.5x r.b 5.1r 2.2d 3.2u 6.16 2.2l 2.17 5.z d.1a 2.7f 2.58o b.g8f 18x.2n 2p.5m 6.1 2 2.4 p.d 1d.9 4n.v 1b 1e.s 2s.u 2q.v 3m.5 3.5 3.5 a.6 2.6 2.1n 45.8mb d.m 5.1c 6it.2m 2.21 2.2s 2.j 2.6 2.3 2.a 2 2 2.i 2 2.f 2 46.6 d.4 6.p 2.4 2 2.1 2.1 2.b 5.3 d.7 d.3 b.d 9.1 6 2.a e.1 j.9 2.1 3.1 5.1 j.3 8v.1 4z a.1 3 e.b 7.1e 2.i 2.3 5.4 2.3q 3 2.59 4.5 3.5 3.5 3.2 4.6 2.6 b.4 2 8x.26 2.c 4 1c.19 6b.r w5.5 2.15 2.8 1ba.u o3.j 7h 2 1k.1 mc.c wk.9 10af.j d.j d.2e a.o 2a0.u 1qa.6 2.3 2.1 2.e 1ky.17 5.2r d.e 3.e 2.e 2.10 b.4t 1l.s e.17 5.8 8.1 4v.rd 3.g 4.c 4.3a 5.2m 7.b 5 g.b 5.1j 9.9 7.13 9.t 3.1 27.9f d.d 3.c 4.1y 2 4.h 2.c 4.b 6.42 2.1i 12.9 we 2 1v b 2d 1k va 2m 26 lq ng w5 8o 7h 3d ap 1v 9c 1md 11w 1p v6 1s kg hd f1 g6 i0 34 wu ce.1 az rf g 6b 4s 11o 7 6j 12 h 2z 24 13g kp 3b 21 8k 1c 1y i2 8 1m 78 9r 5c j1 43 ao cq h8 7r 5u 7a 2k ah ej 5h 10j xn 12 i5 bj 4x dp b2 1e 30 4c 1u sd i 5w bg t 97 o9 72 8 2 3 8m n 32 3u n0 e l7 17 ae b5 17 1fn 5 9 m9 f7 b8 ah 7y s 7t 6 y 11m at.1 f.1 51 7n 2r c 3 b 3r c 3 26 3q 8 7 3 k.1 14 3c.1 4 1g d 14.1 9.2 2 2 2x.1 n 1s 58 s x j 3 a 4 i 4c en 48 3 q 7 48 9o g 34 1e e8.1 3j x 23 5c 4 w 3n c s 37 1w 6 3 84 c 3 4r 5t 5 9 8 2.2 2 j 8.1 69 3 34 y i 16 64 5 3 i k 3 j 6d c 33 18 3k 4.1 3 7.1 2 4 2 9 4 c.1 9 5 3 3 4 3 2 4 1h e.1 e 3s 9 46.1 7 2 3.1 7 3l 2 2.1 f.1 8 5.1 13 1v 2 9 3 4 2a c b 1bl 36t 3os 3 2 i 7 v g l d 1a 4 1j f 10 24 2s f 2mi 1is.1 b2 fd1g.9 14.p 5 2nom.9 n2 2.9';

/** What a family adds to them. */
export const OWN = {
  'Source Serif 4': '',
  'Source Sans 3': '6nc 15 2 8t g.1 xx.3',
  'EB Garamond': '6my.1 3.4 c z 2 7.1 1h 6 e o 5 147.3 i1.2 5r.1 zp7.1 1q5 2rj',
  'Atkinson Hyperlegible Next': '',
  Lora: '7vs.1 13is',
  'Crimson Pro': '7vs.1 15au',
  Merriweather: '7vs.1 p9e.2',
  'Work Sans': '6nu.1 17x.1 15au',
  'Nunito Sans': '7vs.1 15au',
  'Playfair Display': '',
  Cinzel: '',
  'Dancing Script': '',
  'Great Vibes': '7vs.1 p9t.2 fl3 fw',
  'Cormorant Garamond': '',
  'Pinyon Script': '',
} as const;
