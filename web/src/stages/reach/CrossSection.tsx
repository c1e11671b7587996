import type { PackView } from '../../api/types.gen';
import { across } from './words';

/** A bundle cut across: its wires as tight as they were found to go, in the ring that hands lay them in. */
export function CrossSection({ pack, size }: { pack: PackView; size: number }) {
  const radius = Math.max(pack.laid, pack.floor) / 2;
  const edge = radius * 1.06;
  return (
    <figure className="section">
      <svg
        width={size}
        height={size}
        viewBox={`${-edge} ${-edge} ${2 * edge} ${2 * edge}`}
        role="img"
        aria-label={`cross-section: ${pack.circles.length} wires, at least ${across(pack.floor)}, as laid ${across(pack.laid)}`}
        data-testid="section"
      >
        <circle r={pack.laid / 2} className="laid" />
        <circle r={pack.floor / 2} className="floor" />
        {pack.circles.map((c, i) => (
          <circle key={i} cx={c.x} cy={c.y} r={c.d / 2} className="wire" />
        ))}
      </svg>
      <figcaption className="quiet">
        {pack.packed
          ? `packed as tight as was found: ${across(pack.floor)}`
          : `no thinner than ${across(pack.floor)}, by area alone`}
      </figcaption>
    </figure>
  );
}
