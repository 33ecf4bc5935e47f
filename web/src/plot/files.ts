/** A chart as a file: an SVG drawing that needs nothing else, a PNG picture of it, its values as CSV. */

import { pngOf } from "../look/keepBlob";

export interface Column {
  title: string;
  values: (number | string | null)[];
}

const STYLES = [
  "fill",
  "fill-opacity",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "stroke-opacity",
  "opacity",
  "font-family",
  "font-size",
  "font-weight",
  "text-anchor",
  "dominant-baseline",
];
const SHARPNESS = 2;

/** The values as RFC 4180 has them, a column for each. */
export function csvOf(columns: Column[]): string {
  const rows = Math.max(...columns.map((column) => column.values.length));
  const cell = (value: number | string | null | undefined) => {
    const text = String(value ?? "");
    return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
  };
  const lines = [
    columns.map((column) => column.title),
    ...Array.from({ length: rows }, (_, k) => columns.map((column) => column.values[k])),
  ];
  return lines.map((line) => line.map(cell).join(",") + "\r\n").join("");
}

/** The layers of a chart as they stand on the page, their styles written into them, on a ground. */
export function drawingOf(layers: SVGSVGElement[], ground: string): Blob {
  const [first, ...others] = layers.map(styled);
  for (const other of others) first!.append(...other.childNodes);
  const { width, height } = layers[0]!.getBoundingClientRect();
  first!.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  first!.setAttribute("viewBox", `0 0 ${width} ${height}`);
  first!.setAttribute("width", String(width));
  first!.setAttribute("height", String(height));
  first!.setAttribute("style", `background:${ground}`);
  return new Blob([new XMLSerializer().serializeToString(first!)], { type: "image/svg+xml" });
}

function styled(layer: SVGSVGElement): SVGSVGElement {
  const copy = layer.cloneNode(true) as SVGSVGElement;
  const originals = [layer, ...layer.querySelectorAll<SVGElement>("*")];
  const copies = [copy, ...copy.querySelectorAll<SVGElement>("*")];
  originals.forEach((original, k) => {
    const style = getComputedStyle(original);
    copies[k]!.removeAttribute("class");
    copies[k]!.setAttribute(
      "style",
      STYLES.map((name) => `${name}:${style.getPropertyValue(name)}`).join(";"),
    );
  });
  return copy;
}

/** A drawing of a chart as a picture, sharp on fine screens. */
export async function pictureOf(drawing: Blob, { width, height }: DOMRect): Promise<Blob> {
  const address = URL.createObjectURL(drawing);
  try {
    const image = new Image();
    image.src = address;
    await image.decode();
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [width * SHARPNESS, height * SHARPNESS];
    canvas.getContext("2d")!.drawImage(image, 0, 0, canvas.width, canvas.height);
    return await pngOf(canvas);
  } finally {
    URL.revokeObjectURL(address);
  }
}
