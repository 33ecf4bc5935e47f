/** What is drawn on a canvas, as a PNG. */
export function pngOf(canvas: HTMLCanvasElement): Promise<Blob> {
  return new Promise((give, fail) =>
    canvas.toBlob((blob) => (blob ? give(blob) : fail(new Error("no picture"))), "image/png"),
  );
}

/** Hand a file to the browser to keep. */
export function keepBlob(blob: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
