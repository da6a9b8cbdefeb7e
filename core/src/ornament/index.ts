export { ornamentSvg } from './draw.js';
export {
  FIRST_ORNAMENTS,
  Ornament,
  ORNAMENT_PATTERNS,
  type OrnamentKind,
  type OrnamentOf,
} from './ornament.js';
