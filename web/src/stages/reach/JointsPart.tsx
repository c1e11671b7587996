import { Button, Input } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { finiteOf } from '../../frame/number';
import type { BuyLine, ReachView, Rules } from '../../api/types.gen';
import { WireSwatch } from '../../harness/WireSwatch';
import { colourName, isCode } from '../../harness/insulation';
import type { Changer, PartProps } from './part';
import { across, metres, schoolWord } from './words';

/** What is short by colour, what the stock gives, what is bought, and every joint with its place. */
export function JointsPart({ view, onRules }: PartProps & { onRules: Changer<Rules> }) {
  return (
    <div className="reachscroll columns" tabIndex={0} role="region" aria-label="joints and wire">
      <div className="stack">
        <Short view={view} />
        <Buy view={view} />
        <Shelf view={view} onRules={onRules} />
      </div>
      <Joints view={view} />
    </div>
  );
}

function Colour({ colour }: { colour: BuyLine['colour'] }) {
  return (
    <span className="bar" style={{ gap: 6, flexWrap: 'nowrap' }}>
      <WireSwatch colour={colour} bare="right" />
      <span className="mono">{colourName(colour) || 'not known'}</span>
    </span>
  );
}

function Short({ view }: { view: ReachView }) {
  const total = view.colours.reduce((n, c) => n + c.short, 0);
  return (
    <section>
      <h2>Short by colour: {metres(total)}</h2>
      {(view.figures.guessed ?? 0) > 0 && (
        <p>
          It was guessed at <strong className="mono">{metres(view.figures.guessed ?? 0)}</strong>:{' '}
          {(view.rules.guess ?? 0) / 1000} m for each of {view.figures.wires} wires. By the paths{' '}
          <strong className="mono">{metres(total)}</strong> are missing, in{' '}
          {view.figures.extend + view.figures.replace + view.figures.fresh} of them.
        </p>
      )}
      {view.colours.length === 0 && <p className="quiet">Nothing is short.</p>}
      {view.colours.length > 0 && (
        <table className="table" data-testid="short">
          <thead>
            <tr>
              <th scope="col">colour</th>
              <th scope="col">size</th>
              <th scope="col">wires</th>
              <th scope="col">short</th>
              <th scope="col">from stock</th>
              <th scope="col">to buy</th>
            </tr>
          </thead>
          <tbody>
            {view.colours.map((c) => (
              <tr key={`${c.colour.written} ${c.size ?? ''}`}>
                <td>
                  <Colour colour={c.colour} />
                </td>
                <td className="mono">{c.size ? `${c.size} mm²` : '?'}</td>
                <td className="mono">{c.wires}</td>
                <td className="mono">{metres(c.short)}</td>
                <td className="mono">{c.stock ? metres(c.stock) : ''}</td>
                <td className="mono">{c.buy ? metres(c.buy) : ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function Buy({ view }: { view: ReachView }) {
  const s = view.stock;
  return (
    <section>
      <h2>To buy: {metres(view.figures.buy)}</h2>
      <p className="quiet">
        {Math.round(100 * view.rules.margin)} % is added to each line. Where a wire has a tracer a plain
        colour is bought and its code printed at both ends and at each joint; colours that mean danger or a
        constant feed never stand in for others.
      </p>
      {s.worth > 0 && (
        <p>
          {s.pieces} pieces of stock serve {metres(s.served)}.{' '}
          <span className="quiet">
            {s.exact
              ? 'All ways to cut the stock were compared: none serves more.'
              : `Not all ways to cut the stock were compared: this one reaches ${Math.floor((100 * s.worth) / s.bound)} % of what none can exceed.`}
          </span>
        </p>
      )}
      {view.buy.length > 0 && (
        <table className="table" data-testid="buy">
          <thead>
            <tr>
              <th scope="col">colour</th>
              <th scope="col">size</th>
              <th scope="col">class</th>
              <th scope="col">need</th>
              <th scope="col">buy</th>
              <th scope="col">for</th>
            </tr>
          </thead>
          <tbody>
            {view.buy.map((b) => (
              <tr key={`${b.colour.written} ${b.size ?? ''} ${b.class ?? ''} ${b.kind ?? ''}`}>
                <td>
                  <Colour colour={b.colour} />
                </td>
                <td className="mono">
                  {b.size} mm²{b.kind ? ` ${b.kind}` : ''}
                </td>
                <td className="mono">{b.class}</td>
                <td className="mono">{metres(b.need)}</td>
                <td className="mono">
                  <strong>{metres(b.buy)}</strong>
                </td>
                <td className="quiet mono">
                  {b.for.slice(0, 5).join(' ')}
                  {b.for.length > 5 && ` and ${b.for.length - 5} more`}
                  {b.coded && <div>printed</div>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

/** Reels and pieces that are there, beside what comes out of the harness. */
function Shelf({ view, onRules }: { view: ReachView; onRules: Changer<Rules> }) {
  const [draft, setDraft] = useState({ name: '', colour: '', size: '', length: '' });
  const size = finiteOf(draft.size);
  const length = finiteOf(draft.length);
  const shelf = view.rules.shelf ?? [];
  const ok =
    draft.name.trim() !== '' &&
    (size ?? 0) > 0 &&
    (length ?? 0) > 0 &&
    !shelf.some((p) => p.id === draft.name.trim());
  const add = () => {
    const code = draft.colour.trim().toUpperCase();
    if (ok && size !== undefined && length !== undefined) {
      const parts = code
        .split(/[-/ ]/)
        .filter(isCode)
        .map((c) => ({ code: c }));
      onRules((r) => ({
        ...r,
        shelf: [
          ...(r.shelf ?? []),
          {
            id: draft.name.trim(),
            colour: { written: code, ...(parts.length > 0 ? { parts } : {}) },
            size,
            length: length * 1000,
          },
        ],
      }));
      setDraft({ name: '', colour: '', size: '', length: '' });
    }
  };
  return (
    <section>
      <h2>On the shelf</h2>
      <table className="table">
        <tbody>
          {shelf.map((p) => (
            <tr key={p.id}>
              <td>{p.id}</td>
              <td>
                <Colour colour={p.colour} />
              </td>
              <td className="mono">{p.size} mm²</td>
              <td className="mono">{metres(p.length)}</td>
              <td>
                <Button
                  size="small"
                  onClick={() =>
                    onRules((r) => ({ ...r, shelf: (r.shelf ?? []).filter((x) => x.id !== p.id) }))
                  }
                >
                  Gone
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="bar" style={{ gap: 6, marginTop: 6 }}>
        {(
          [
            ['name', 'name of the reel', 130],
            ['colour', 'colour, as GN-BK', 120],
            ['size', 'mm²', 70],
            ['length', 'metres', 80],
          ] as const
        ).map(([key, word, width]) => (
          <Input
            key={key}
            size="small"
            style={{ width }}
            aria-label={word}
            placeholder={word}
            value={draft[key]}
            maxLength={60}
            onChange={(e) => setDraft({ ...draft, [key]: e.target.value })}
            onPressEnter={add}
          />
        ))}
        <Button size="small" disabled={!ok} onClick={add}>
          Add
        </Button>
      </div>
      <p className="quiet">
        {view.pieces.length} pieces come out of the harness,{' '}
        {metres(view.pieces.reduce((n, p) => n + p.length, 0))} in all
        {view.pieces.some((p) => p.waits) && ', most of them still in it'}.
      </p>
    </section>
  );
}

function Joints({ view }: { view: ReachView }) {
  return (
    <section>
      <h2>
        {view.joints.length} joints, {view.rules.apart} mm apart at least
      </h2>
      {view.joints.length === 0 && <p className="quiet">No wire is lengthened, so none is jointed.</p>}
      {view.joints.length > 0 && (
        <table className="table" data-testid="joints">
          <thead>
            <tr>
              <th scope="col">wire</th>
              <th scope="col">where</th>
              <th scope="col">thick there</th>
              <th scope="col">how</th>
            </tr>
          </thead>
          <tbody>
            {view.joints.map((j) => (
              <tr key={j.id}>
                <td className="mono">
                  <Link to={`?part=cuts&only=all&wire=${encodeURIComponent(j.wire)}`}>{j.wire}</Link>
                </td>
                <td>
                  <span className="mono">{j.at} mm</span> from {j.from}
                  {j.path ? (
                    <span className="quiet"> along {j.path}</span>
                  ) : (
                    <span className="quiet"> in its tail</span>
                  )}
                  {j.trouble && <div>! {j.trouble}</div>}
                </td>
                <td className="mono">{j.thick ? across(j.thick) : ''}</td>
                <td>
                  {schoolWord[j.school]}{' '}
                  {j.school !== view.rules.school && <span className="quiet">{j.why}</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
