export { dayBegins, dayIn, isTimeZone } from './day.js';
