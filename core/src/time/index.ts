export { dayIn, isTimeZone } from './day.js';
