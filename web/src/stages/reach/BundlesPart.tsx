import { Checkbox } from 'antd';
import { useState } from 'react';
import { usePack } from '../../api/reach';
import type { Plug, ReachView, RouteMap, Rules, Wall } from '../../api/types.gen';
import { CrossSection } from './CrossSection';
import { Quantity } from './Quantity';
import { Parting } from './Parting';
import type { Changer, PartProps } from './part';
import { across, few } from './words';

/** What lies along each path, what goes through walls, what must come apart, and what must be kept apart. */
export function BundlesPart({
  job,
  view,
  onMap,
  onRules,
  onError,
}: PartProps & { onMap: Changer<RouteMap>; onRules: Changer<Rules> }) {
  return (
    <div className="reachscroll columns" tabIndex={0} role="region" aria-label="bundles">
      <div className="stack">
        {view.walls.map((w) => (
          <Through key={w.path} wall={w} onMap={onMap} onRules={onRules} />
        ))}
        <Bundles job={job} view={view} />
      </div>
      <div className="stack">
        <Apart view={view} />
        {view.disconnects.map((d) => (
          <Parting key={d.between.join()} job={job} view={view} onError={onError} of={d} />
        ))}
      </div>
    </div>
  );
}

function Through({
  wall: w,
  onMap,
  onRules,
}: {
  wall: Wall;
  onMap: Changer<RouteMap>;
  onRules: Changer<Rules>;
}) {
  return (
    <section data-testid="wall">
      <h2>
        Through {w.path}: a hole of {w.hole} mm
      </h2>
      <p>
        {w.wires} wires, <span className="mono">{across(w.over)}</span> with their cover.{' '}
        {w.plugs
          ? `The plugs are passed through from ${w.from}, biggest first: fitting the housings afterwards would save ${w.saved ?? 0} mm.`
          : 'The housings are fitted afterwards.'}{' '}
        {w.caution.join(' ')}
      </p>
      <Checkbox
        checked={w.plugs !== undefined}
        onChange={(e) =>
          onMap((m) => ({
            ...m,
            paths: m.paths.map((p) => (p.id === w.path ? { ...p, plugs: e.target.checked } : p)),
          }))
        }
      >
        pass the plugs through
      </Checkbox>
      <PlugSizes
        word={w.plugs ? 'Feed in this order' : 'Fitted afterwards'}
        plugs={(w.plugs ?? w.after ?? []).slice(0, 10)}
        onRules={onRules}
      />
      {(w.loose ?? 0) > 0 && (
        <p className="quiet">{w.loose} wires end at splices beyond it and go through last.</p>
      )}
    </section>
  );
}

function PlugSizes({
  word,
  plugs,
  onRules,
}: {
  word: string;
  plugs: readonly Plug[];
  onRules: Changer<Rules>;
}) {
  return (
    <table className="table">
      <thead>
        <tr>
          <th scope="col">{word}</th>
          <th scope="col">ways</th>
          <th scope="col">across at its widest</th>
        </tr>
      </thead>
      <tbody>
        {plugs.map((p) => (
          <tr key={p.connector}>
            <td className="mono">{p.connector}</td>
            <td className="mono">{p.ways}</td>
            <td>
              <Quantity
                label={`size of plug ${p.connector}`}
                value={p.guessed ? 0 : p.across}
                empty={`about ${p.across}`}
                width={118}
                most={500}
                onChange={(mm) => onRules((r) => ({ ...r, plugs: { ...r.plugs, [p.connector]: mm } }))}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Bundles({ job, view }: { job: string; view: ReachView }) {
  const used = view.bundles.filter((b) => b.wires.length > 0).sort((a, b) => b.laid - a.laid);
  const [shown, show] = useState<string | undefined>();
  const at = used.find((b) => b.path === shown) ?? used[0];
  const pack = usePack(job, at?.path, view.revision);
  return (
    <section>
      <h2>Bundles</h2>
      <p className="quiet">
        As laid: 1.2 × √Σd², common practice, d from ISO 6722-1 (from memory). The tightest packing is a floor
        that no hand reaches.
      </p>
      {pack.data && at && (
        <div className="bar">
          <CrossSection pack={pack.data} size={170} />
          <div>
            <strong>{at.path}</strong>
            <div>
              {at.wires.length} wires, {at.loaded} of them carry 1 A or more
            </div>
          </div>
        </div>
      )}
      <table className="table" data-testid="bundles">
        <thead>
          <tr>
            <th scope="col">path</th>
            <th scope="col">wires</th>
            <th scope="col">no thinner than</th>
            <th scope="col">as laid</th>
            <th scope="col">with cover</th>
          </tr>
        </thead>
        <tbody>
          {used.map((b) => (
            <tr key={b.path} className={b.path === at?.path ? 'selected' : ''}>
              <td>
                <button className="plain" onClick={() => show(b.path)}>
                  {b.path}
                </button>
              </td>
              <td className="mono">{b.wires.length}</td>
              <td className="mono">{across(b.area)}</td>
              <td className="mono">{across(b.laid)}</td>
              <td className="mono">{across(b.over)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Apart({ view }: { view: ReachView }) {
  if (view.apart.length === 0) {
    return null;
  }
  return (
    <section data-testid="apart">
      <h2>Keep apart</h2>
      <p>
        Starter, alternator, coil and motor cables lie beside crank, cam, knock or bus wires. Give one of them
        another way, or lay them a hand’s breadth apart, crossing at right angles.
      </p>
      <table className="table">
        <thead>
          <tr>
            <th scope="col">path</th>
            <th scope="col">over</th>
            <th scope="col">these disturb</th>
            <th scope="col">these</th>
          </tr>
        </thead>
        <tbody>
          {view.apart.map((a) => (
            <tr key={a.path}>
              <td>{a.path}</td>
              <td className="mono">{a.length} mm</td>
              <td className="mono">{few(a.strong)}</td>
              <td className="mono">{few(a.weak)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
