/** The steps of the work, in its order. */

export const WOUND_STEPS = {
  fit: "Fit",
  path: "Path",
  section: "Section",
  stance: "Stance",
  along: "Along the wire",
  ends: "Span and ends",
  wires: "Wires",
  load: "Load",
  checks: "Checks",
  weigh: "Weigh",
  title: "Title block",
  solid: "Solid",
} as const;

export const THREAD_STEPS = {
  thread: "Thread",
  host: "Host",
  ends: "Where it runs, and ends",
  mate: "Size and mate",
  gauging: "Sizes and gauging",
  joint: "Joint",
  checks: "Checks",
  weigh: "Weigh",
  title: "Title block",
  solid: "Solid",
} as const;
