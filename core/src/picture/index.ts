export { checkSvg, SVG_LIMITS } from './check-svg.js';
