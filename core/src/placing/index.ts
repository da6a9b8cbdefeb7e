export { alignBoxes, distributeBoxes, reorder, stepCopies, type Named, type Side } from './arrange.js';
export { boundsOf, overlap, tidy, tidyRect, type Axis, type Rect } from './rect.js';
export { snap, type Gap, type Grip, type Guide, type Snapped, type Surroundings } from './snap.js';
