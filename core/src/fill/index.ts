export { fillFields, oneLine, printable, type Values } from './fill.js';
