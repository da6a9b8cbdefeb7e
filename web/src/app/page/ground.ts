import { emptyPlaced, type GroundAbout, type GroundNotice, type Placed } from '@scriptum/core/template';

/** What is said of a PDF that was brought in as the ground of pages. */
export const GROUND_NOTICES: Readonly<Record<GroundNotice, string>> = {
  scan: 'This PDF has no text of its own, as scans have none. Put the places on it by hand.',
  layers: 'Layers that are switched off in this PDF are left out.',
  fonts:
    'Some typefaces of this PDF are not in the file, so papers on it do not claim to be accessible (PDF/UA).',
  fields:
    'This PDF is a form with fields. Put places on those that are to be filled in, and say under “Pages and type” whether families can fill in the others.',
};

/** A certificate on the pages of a PDF, each in its own size, with nothing on them yet. */
export function onGround(name: string, asset: string, { pages }: GroundAbout): Placed {
  const blank = emptyPlaced(name);
  const first = pages[0] ?? blank.page;
  const page = {
    width: first.width,
    height: first.height,
    margins: { top: 0, right: 0, bottom: 0, left: 0 },
  };
  return {
    ...blank,
    page,
    font: { family: 'Source Sans 3', size: 11 },
    pages: pages.map(({ width, height }, n) => ({
      ...(width === page.width && height === page.height ? {} : { size: { width, height } }),
      ground: { asset, page: n },
    })),
  };
}
