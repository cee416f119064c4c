const STEP = 5;

/** A count as tally strokes, every fifth crossing the four before it. The number itself must stand beside it in words. */
export function Tally({ n }: { n: number }) {
  const strokes = Array.from({ length: n }, (_, i) => {
    const group = Math.floor(i / 5);
    const left = group * (STEP * 5) + 3;
    const crossing = i % 5 === 4;
    const x = left + (i % 5) * STEP;
    return crossing ? `M${left - 3} 13L${left + STEP * 3 + 3} 3` : `M${x} 2v12`;
  });
  const width = Math.ceil(n / 5) * STEP * 5;
  return (
    <svg
      width={Math.max(10, n < 5 ? n * STEP + 2 : width)}
      height="16"
      aria-hidden="true"
      className="block"
      stroke="currentColor"
      strokeWidth="1.7"
    >
      <path d={strokes.join('')} />
    </svg>
  );
}
