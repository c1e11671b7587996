import type { ReachView, RoutePath } from '../../api/types.gen';
import { Quantity } from './Quantity';
import { marksOf, type Spot } from './RouteDrawing';
import { across } from './words';

interface Props {
  view: ReachView;
  selected: Spot | undefined;
  onSelect: (s: Spot) => void;
  onPath: (id: string, change: Partial<RoutePath>) => void;
}

/** The same map as a table: lengths are typed where they stand. */
export function MapTable({ view, selected, onSelect, onPath }: Props) {
  const of = new Map(view.bundles.map((b) => [b.path, b]));
  return (
    <div className="reachscroll" tabIndex={0} role="region" aria-label="paths">
      <table className="table" data-testid="paths">
        <thead>
          <tr>
            <th scope="col">from</th>
            <th scope="col">to</th>
            <th scope="col">length</th>
            <th scope="col">±</th>
            <th scope="col">hottest air</th>
            <th scope="col">along it</th>
            <th scope="col">wires</th>
            <th scope="col">as laid</th>
          </tr>
        </thead>
        <tbody>
          {view.map.paths.map((p) => (
            <tr
              key={p.id}
              className={selected?.on === 'path' && selected.id === p.id ? 'selected' : ''}
              onClick={() => onSelect({ on: 'path', id: p.id })}
            >
              <td>{p.from}</td>
              <td>{p.to}</td>
              <td>
                <Quantity
                  label={`length of ${p.id}`}
                  value={p.length}
                  onChange={(length) => onPath(p.id, { length })}
                />
              </td>
              <td>
                <Quantity
                  label={`spread of ${p.id}`}
                  value={p.spread ?? 0}
                  empty="1/20"
                  width={90}
                  onChange={(spread) => onPath(p.id, { spread })}
                />
              </td>
              <td>
                <Quantity
                  label={`air along ${p.id}`}
                  value={p.heat ?? 0}
                  unit="°C"
                  least={-60}
                  most={1000}
                  empty="40"
                  width={80}
                  onChange={(heat) => onPath(p.id, { heat })}
                />
              </td>
              <td>
                {[p.wall ? 'wall' : '', marksOf(p), p.waits ? `provisional: ${p.waits}` : '']
                  .filter(Boolean)
                  .join(' · ')}
              </td>
              <td className="mono">{of.get(p.id)?.wires.length ?? 0}</td>
              <td className="mono nowrap">{of.get(p.id)?.laid ? across(of.get(p.id)?.laid ?? 0) : ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
