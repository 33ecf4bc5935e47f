import { useCallback } from "react";
import { Turns } from "./turns";

interface Props {
  src: string;
  width?: number;
  height: number;
  /** Where there is none to be had. */
  onError?: (picture: HTMLImageElement) => void;
}

/** What is only scrolled past is not asked for, and what is typed finds the server free. */
const IN_SIGHT_MS = 250;
const turns = new Turns(2);

/** A picture that the server draws, asked for once it stays in sight; it says nothing that is not beside it. */
export function Picture({ src, width, height, onError }: Props) {
  const watch = useCallback(
    (picture: HTMLImageElement) => {
      let timer: number | undefined;
      let end: (() => void) | undefined;
      const leave = () => {
        clearTimeout(timer);
        end?.();
        if (!picture.complete) picture.removeAttribute("src");
      };
      const ask = () => (end = turns.take(() => (picture.src = src)));
      const watcher = new IntersectionObserver(([seen]) => {
        leave();
        if (seen?.isIntersecting) timer = window.setTimeout(ask, IN_SIGHT_MS);
      });
      const over = () => {
        watcher.disconnect();
        end?.();
      };
      const failed = () => {
        over();
        onError?.(picture);
      };
      picture.addEventListener("load", over);
      picture.addEventListener("error", failed);
      watcher.observe(picture);
      return () => {
        picture.removeEventListener("load", over);
        picture.removeEventListener("error", failed);
        watcher.disconnect();
        leave();
      };
    },
    [src, onError],
  );
  return <img ref={watch} alt="" width={width} height={height} />;
}
