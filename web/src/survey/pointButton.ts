import type { KeyboardEvent } from "react";

export interface PointProps {
  index: number;
  picked: boolean;
  /** The one that the Tab key comes to. */
  reached: boolean;
  label: string;
  onPick: (index: number) => void;
  /** Points that each arrow key goes on by. */
  steps: Partial<Record<string, number>>;
  count: number;
}

/** What makes a mark in a chart a button: pressed, it is chosen; the arrow keys choose its neighbours. */
export function pointButton({ index, picked, reached, label, onPick, steps, count }: PointProps) {
  return {
    id: `point-${index}`,
    role: "button",
    tabIndex: reached ? 0 : -1,
    "aria-label": label,
    "aria-pressed": picked,
    onClick: () => onPick(index),
    onKeyDown: (event: KeyboardEvent) => {
      const by = event.key === "Enter" || event.key === " " ? 0 : steps[event.key];
      if (by === undefined) return;
      event.preventDefault();
      const next = Math.min(Math.max(index + by, 0), count - 1);
      onPick(next);
      document.getElementById(`point-${next}`)?.focus();
    },
    style: { cursor: "pointer" },
  };
}
