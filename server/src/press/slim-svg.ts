/**
 * The same picture in about half the bytes, so that a browser shows it sooner: no white space between tags, no
 * attributes that say what is the initial value anyway (SVG 2, sections 13.2 and 13.4.2, and `y` of `use`, 5.5).
 */
export function slimSvg(svg: string): string {
  return svg
    .replace(/>\s+</g, '><')
    .replaceAll(' fill-rule="nonzero"', '')
    .replace(/<use [^>]*>/g, (use) => use.replace(' y="0"', '').replace(' fill="#000000"', ''));
}
