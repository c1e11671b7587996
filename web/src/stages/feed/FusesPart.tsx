import type { FeedView } from '../../api/types.gen';
import { SeverityMark } from '../../frame/SeverityMark';
import { amps } from './tree';

/** Every fuse with what it carries and what lies behind it, and what lies before all fuses. */
export function FusesPart({ view }: { view: FeedView }) {
  const said = (fuse: string) => view.findings.filter((f) => f.subject === fuse && !f.answer);
  return (
    <div className="feedgrid">
      <div className="feedscroll">
        <table className="table" aria-label="fuses">
          <thead>
            <tr>
              <th>fuse</th>
              <th>is</th>
              <th>fits</th>
              <th>carries</th>
              <th>thinnest behind it</th>
              <th>wires behind it</th>
            </tr>
          </thead>
          <tbody>
            {view.fuses.map((f) => (
              <tr key={f.fuse}>
                <td className="mono">
                  <strong>{f.fuse}</strong>
                </td>
                <td className="mono">{f.rating} A</td>
                <td className="mono" title={f.why}>
                  {f.best > 0 ? `${f.best} A` : 'none'}
                </td>
                <td>
                  <span className="mono">{amps(f.load)}</span>
                  {f.in && <span className="quiet"> {f.in === 'everything on' ? f.in : `in ${f.in}`}</span>}
                </td>
                <td>
                  {f.thin ? (
                    <>
                      <span className="mono">{f.thin}</span>{' '}
                      <span className="quiet">may {amps(f.carries)}</span>
                    </>
                  ) : (
                    <span className="quiet">not known</span>
                  )}
                </td>
                <td>
                  <span className="quiet">{f.wires.slice(0, 6).join(', ')}</span>
                  {f.wires.length > 6 && <span className="quiet"> and {f.wires.length - 6} more</span>}
                  {said(f.fuse).map((x) => (
                    <div key={x.code}>
                      <SeverityMark severity={x.severity} /> {x.text} {x.remedy}
                    </div>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <aside className="side" tabIndex={0} aria-label="lengths before any fuse">
        <h2>Before any fuse</h2>
        <p className="quiet">
          Lengths between a source and the first fuse. The starter’s cable is exempt; everything else burns
          unhindered.
        </p>
        <table className="table">
          <tbody>
            {view.unprotected.map((b) => (
              <tr key={b.wire}>
                <td className="mono">{b.wire}</td>
                <td className="mono">{b.mm > 0 ? `${Math.round(b.mm)} mm` : ''}</td>
                <td className="quiet">{b.starter ? 'exempt' : ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </aside>
    </div>
  );
}
