import { drawBars } from './bars.js';
import { drawCourse } from './course.js';
import type { ChartData, ChartSize } from './chart-data.js';
import type { Drawing } from './drawing.js';
import { drawPlace } from './place.js';
import { drawWeeks } from './weeks.js';

export { tickText, valueScale } from './axis.js';
export type { ChartData, ChartPoint, ChartSize, ChartWeek, ChartWords } from './chart-data.js';
export {
  aboutWidth,
  CHART_COLOURS,
  drawingSvg,
  fitted,
  type ChartColour,
  type Drawing,
  type Label,
  type Shape,
} from './drawing.js';
export { sayPlace, sayPoints, sayWeeks } from './say.js';

/** Draws a chart in a size. */
export function drawChart(data: ChartData, size: ChartSize): Drawing {
  switch (data.kind) {
    case 'bars':
      return drawBars(data, size);
    case 'course':
      return drawCourse(data, size);
    case 'place':
      return drawPlace(data, size);
    case 'weeks':
      return drawWeeks(data, size);
  }
}
