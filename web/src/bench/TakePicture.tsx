import { useThree } from "@react-three/fiber";
import { useEffect } from "react";
import { OrthographicCamera, PerspectiveCamera, WebGLRenderTarget } from "three";
import { keepBlob, pngOf } from "../look/keepBlob";

const WIDE = 3840;

/** Keeps what is seen as a PNG of 3840 pixels across on a clear ground, once for each time that it is asked for. */
export function TakePicture({ asked, name }: { asked: number; name: string }) {
  const { gl, scene, camera, size } = useThree();
  useEffect(() => {
    if (asked === 0) return;
    const high = Math.round((WIDE * size.height) / size.width);
    const target = new WebGLRenderTarget(WIDE, high, { samples: 4, colorSpace: "srgb" });
    const eye = camera.clone() as PerspectiveCamera | OrthographicCamera;
    gl.setRenderTarget(target);
    gl.clear();
    gl.render(scene, eye);
    const pixels = new Uint8ClampedArray(4 * WIDE * high);
    gl.readRenderTargetPixels(target, 0, 0, WIDE, high, pixels);
    gl.setRenderTarget(null);
    target.dispose();
    void pngOf(canvasOf(upright(pixels, WIDE, high), WIDE, high)).then((png) =>
      keepBlob(png, `${name}.png`),
    );
    // The picture is of the moment that it was asked for in.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [asked]);
  return null;
}

/** Rows from the top, as pictures have them. */
function upright(pixels: Uint8ClampedArray<ArrayBuffer>, wide: number, high: number) {
  const turned = new Uint8ClampedArray(pixels.length);
  const row = 4 * wide;
  for (let y = 0; y < high; y++)
    turned.set(pixels.subarray((high - 1 - y) * row, (high - y) * row), y * row);
  return turned;
}

function canvasOf(pixels: Uint8ClampedArray<ArrayBuffer>, wide: number, high: number) {
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [wide, high];
  canvas.getContext("2d")!.putImageData(new ImageData(pixels, wide, high), 0, 0);
  return canvas;
}
