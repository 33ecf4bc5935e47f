interface Props {
  symbol?: string;
  formula: string;
}

/** A formula with its symbol before it; what stands after an underscore is set below the line. */
export function Formula({ symbol = "", formula }: Props) {
  const whole = symbol ? `${symbol} = ${formula}` : formula;
  return whole
    .split(/_(\p{L}+|\d+)/u)
    .map((piece, k) => (k % 2 ? <sub key={k}>{piece}</sub> : piece));
}
