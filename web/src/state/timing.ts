/** How long it takes from an edit to the changed part, as a measure of the page that anybody can read. */

const EDITED = "edited";

/** The name of the measure, from the last edit to the shape that answers it, in the browser's memory. */
const CHANGED = "part changed";

export function edited() {
  performance.clearMarks(EDITED);
  performance.mark(EDITED);
}

export function changed() {
  performance.clearMeasures(CHANGED);
  if (performance.getEntriesByName(EDITED).length > 0) performance.measure(CHANGED, EDITED);
}
