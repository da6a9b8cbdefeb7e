export { dayBegins, dayIn, isTimeZone, momentIn } from './day.js';
