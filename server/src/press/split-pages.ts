/** One page of a proof. Sizes in points. */
export interface ProofPage {
  readonly svg: string;
  readonly width: number;
  readonly height: number;
}

/** A part of the picture that stands right below its root. */
interface Part {
  readonly name: string;
  readonly text: string;
}

/**
 * Cuts the picture in which the typesetter puts all pages, one below the other, into a picture for each. A page is a shape
 * of its size, which is its ground, and a group with what stands on it; at the end stand the shapes of letters.
 */
export function splitPages(svg: string): ProofPage[] {
  const parts = topParts(svg);
  const defs = parts.filter(({ name }) => name === 'defs').map(({ text }) => text);
  const pages: ProofPage[] = [];
  let ground: Part | null = null;
  for (const part of parts) {
    if (part.name === 'path') ground = part;
    if (part.name !== 'g' || !ground) continue;
    const size = / d="M 0 0v ([\d.]+) h ([\d.]+) /.exec(ground.text);
    const [height, width] = [Number(size?.[1]), Number(size?.[2])];
    // The group is moved down to where its page stands in the whole picture.
    const content = part.text.replace(/^<g [^>]*>/, '<g>');
    pages.push({ svg: onePage(ground.text + content, defs, width, height), width, height });
    ground = null;
  }
  return pages;
}

function onePage(content: string, defs: readonly string[], width: number, height: number): string {
  const used = new Set([...content.matchAll(/href="#([^"]+)"/g)].map(([, id]) => id));
  // Letters of other pages are left out; what else is defined is seldom much.
  const needed = defs.map((text) =>
    text.replace(/<symbol id="([^"]+)"[\s\S]*?<\/symbol>\s*/g, (symbol, id: string) =>
      used.has(id) ? symbol : '',
    ),
  );
  return `<svg viewBox="0 0 ${width} ${height}" width="${width}pt" height="${height}pt" xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink">${content}${needed.join('')}</svg>`;
}

/** The end of the tag that begins here; a `>` may stand within quotes. */
function endOfTag(svg: string, from: number): number {
  let end = from;
  for (let at = from; ;) {
    end = svg.indexOf('>', at);
    const quote = svg.indexOf('"', at);
    if (end < 0 || quote < 0 || quote > end) return end;
    at = svg.indexOf('"', quote + 1) + 1;
    if (at === 0) return -1;
  }
}

function topParts(svg: string): Part[] {
  const parts: Part[] = [];
  let depth = 0;
  let [from, name] = [0, ''];
  for (let at = svg.indexOf('<'); at >= 0;) {
    const end = endOfTag(svg, at);
    if (end < 0) break;
    const closing = svg[at + 1] === '/';
    const single = svg[end - 1] === '/';
    if (closing) depth--;
    else if (depth === 1) {
      from = at;
      name = /^[\w:]*/.exec(svg.slice(at + 1, at + 40))![0];
    }
    if (depth === 1 && (closing || single)) parts.push({ name, text: svg.slice(from, end + 1) });
    if (!closing && !single) depth++;
    at = svg.indexOf('<', end);
  }
  return parts;
}
