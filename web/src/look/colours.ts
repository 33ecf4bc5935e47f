/** The two variants of the look: drafting paper by day, the same sheet by lamplight. */

export interface Colours {
  paper: string;
  sheet: string;
  ink: string;
  pencil: string;
  line: string;
  copper: string;
  onCopper: string;
  clear: string;
  watch: string;
  stop: string;
}

export const day: Colours = {
  paper: "#efe7d8",
  sheet: "#faf6ec",
  ink: "#2b2723",
  pencil: "#655c51",
  line: "#d3c7b2",
  copper: "#96491f",
  onCopper: "#fffaf2",
  clear: "#2c6b5c",
  watch: "#85590a",
  stop: "#a02a3c",
};

export const lamplight: Colours = {
  paper: "#1d1b19",
  sheet: "#272421",
  ink: "#efe6d8",
  pencil: "#b5a999",
  line: "#46403a",
  copper: "#e0915e",
  onCopper: "#22180f",
  clear: "#7cc4ae",
  watch: "#e0b252",
  stop: "#f08a94",
};
