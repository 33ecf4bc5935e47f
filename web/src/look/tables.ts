/** How a table of figures looks: names at the left, numbers aligned at the right. */
export const FIGURES_TABLE = {
  borderCollapse: "collapse",
  fontSize: "0.82rem",
  fontVariantNumeric: "tabular-nums",
  "& td": { borderBottom: 1, borderColor: "divider", py: 0.5, verticalAlign: "top" },
} as const;

/** A cell with a number, beside what else stands in its row. */
export const NUMBER_CELL = { textAlign: "right", whiteSpace: "nowrap", pl: 2 } as const;

/** The same with two values beside each other and what sets them apart. */
export const COMPARED_TABLE = {
  ...FIGURES_TABLE,
  "& td + td, & th + th": { textAlign: "right", pl: 1, whiteSpace: "nowrap" },
} as const;
