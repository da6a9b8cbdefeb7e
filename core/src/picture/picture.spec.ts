import { readFileSync } from 'node:fs';
import { checkSvg, SVG_LIMITS } from './index.js';

const svg = (inner: string, more = ''): Uint8Array =>
  new TextEncoder().encode(
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"${more}>${inner}</svg>`,
  );
const code = (bytes: Uint8Array): string => {
  const checked = checkSvg(bytes);
  return checked.ok ? 'fine' : checked.problem.code;
};

test('drawings as drawing programs write them stand by themselves', () => {
  expect(code(readFileSync(new URL('../../../demo/crest.svg', import.meta.url)))).toBe('fine');
  for (const inner of [
    '<defs><linearGradient id="g"/><filter id="f"/></defs><rect fill="url(#g)" style="filter:url( \'#f\' )"/>',
    '<symbol id="s"/><use href="#s"/><use xlink:href="#s"/>',
    '<a href="https://thistlequay.example/"><text>Our school</text></a>',
    '<image href="data:image/png;base64,iVBORw0KGgo="/>',
    '<style>.a { fill: red } /* url(b.png) */ .b { fill: url("#g") }</style>',
    '<text>See url(x.png), or @import it</text>',
    '<metadata>image(1).svg</metadata>',
    '<image href=""/>',
  ])
    expect([inner, code(svg(inner))]).toEqual([inner, 'fine']);
  const doctype =
    '<?xml version="1.0"?><!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd">';
  expect(code(new TextEncoder().encode(`${doctype}<svg xmlns="http://www.w3.org/2000/svg"/>`))).toBe('fine');
});

// SVG 2, 16.1; CSS Values 4, 4.5; CSS Cascade 5, 2.
test('whatever asks for something outside is found, however it is written', () => {
  for (const inner of [
    '<image href="1"/>',
    '<image href="../assets/1"/>',
    '<image xlink:href="/etc/passwd"/>',
    '<IMAGE HREF="x.png"/>',
    '<image href=" file:///x"/>',
    '<image href="&#x31;"/>',
    '<image href="data:image/svg+xml,&lt;svg/&gt;"/>',
    '<image href="data:text/html,x"/>',
    '<use href="other.svg#a"/>',
    '<feImage href="1"/>',
    '<rect fill="url(1)"/>',
    '<rect style="fill:url( \'1\' )"/>',
    '<rect style="fill:u\\72l(1)"/>',
    '<rect style="fill:u/**/rl(1);filter:url(1)"/>',
    '<style>@import "x.css";</style>',
    '<style>@font-face { src: url(x.woff) }</style>',
    '<style><![CDATA[rect { fill: url(x.svg#g) }]]></style>',
    '<g xml:base="http://elsewhere.example/"/>',
    '<foreignObject><img src="x.png"/></foreignObject>',
    '<script href="x.js"/>',
  ])
    expect([inner, code(svg(inner))]).toEqual([inner, 'svg-reference']);
  const sheet = new TextEncoder().encode(
    '<?xml-stylesheet href="x.css"?><svg xmlns="http://www.w3.org/2000/svg"/>',
  );
  expect(code(sheet)).toBe('svg-reference');
});

test('entities, depth, size and damage are refused', () => {
  const entity =
    '<!DOCTYPE svg [<!ENTITY a "1">]><svg xmlns="http://www.w3.org/2000/svg"><image href="&a;"/></svg>';
  expect(code(new TextEncoder().encode(entity))).toBe('svg-entities');
  expect(code(svg('<g>'.repeat(SVG_LIMITS.depth - 1) + '</g>'.repeat(SVG_LIMITS.depth - 1)))).toBe('fine');
  expect(code(svg('<g>'.repeat(20_000) + '</g>'.repeat(20_000)))).toBe('svg-deep');
  expect(code(svg('<g/>'.repeat(SVG_LIMITS.elements)))).toBe('svg-large');
  expect(code(svg('<g>'))).toBe('svg-damaged');
  expect(code(Buffer.from('<svg>é</svg>', 'latin1'))).toBe('svg-damaged');
});
