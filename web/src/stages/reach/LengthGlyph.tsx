import type { CutLine } from '../../api/types.gen';

/** What becomes of a wire for its length, as a shape: a line that spans the gap between two posts, or does not. */
const shapes: Record<CutLine['verdict'], string> = {
  reaches: 'M3 7H23',
  trim: 'M3 7H23M23 7v4h-5',
  extend: 'M3 7H12M12 4v6M16 4v6M16 7H23',
  replace: 'M3 4H23M3 10h3M9 10h3M15 10h3M21 10h2',
  new: 'M3 7h3M9 7h3M15 7h3M21 7h2',
  measure: 'M3 7H8M18 7H23M11 5q2-3 4 0q0 2-2 2.5M13 10v.6',
  'no way': 'M3 7H10M16 4l-4 6M12 4l4 6',
  'no place': 'M3 7H14M17 5a2.4 2.4 0 1 0 4 4',
  'no end': 'M3 7H12M15 7h1',
};

export function LengthGlyph({ verdict }: { verdict: CutLine['verdict'] }) {
  return (
    <svg width="26" height="14" viewBox="0 0 26 14" aria-hidden="true" className="lengthglyph">
      <path d="M2 2v10M24 2v10" strokeWidth="1" />
      <path d={shapes[verdict]} fill="none" strokeWidth="1.8" />
    </svg>
  );
}
