import { Button } from 'antd';
import { explain } from '../../api/client';
import { useRated } from '../../api/feed';
import type { FeedView } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { SeverityMark } from '../../frame/SeverityMark';
import { amps } from '../../work/amps';

/** Every fuse with what it carries and what lies behind it, and what lies before all fuses. */
export function FusesPart({ job, view }: { job: string; view: FeedView }) {
  const rated = useRated(job);
  const take = (fuse: string, amps: number) =>
    rated.mutate({ seen: view.revision, fuse, amps }, { onError: (e) => notice.warning(explain(e)) });
  const own = (fuse: string) => !view.holders.includes(fuse);
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
                <td className="mono">
                  {f.rating > 0 ? `${f.rating} A` : 'none'}
                  {f.slow && <div className="quiet">slow</div>}
                  {!!f.was && (
                    <div className="quiet">
                      {f.was} A stands there{' '}
                      <Button size="small" onClick={() => take(f.fuse, 0)}>
                        Leave it
                      </Button>
                    </div>
                  )}
                  {f.reckoned && <div className="quiet">as reckoned</div>}
                </td>
                <td className="mono" title={f.why}>
                  {f.best > 0 ? `${f.best} A` : 'none'}
                  {f.short && <div className="quiet">against a short only</div>}
                </td>
                <td>
                  <span className="mono">{amps(f.load)}</span>
                  {f.in && <span className="quiet"> {f.in === 'everything on' ? f.in : `in ${f.in}`}</span>}
                  {f.wants && <div className="quiet">{f.wants}</div>}
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
                      <SeverityMark severity={x.severity} /> {x.text} {x.remedy}{' '}
                      {!own(f.fuse) &&
                        f.best > 0 &&
                        f.best !== f.rating &&
                        x.code.startsWith('fuse-') &&
                        x.code !== 'fuse-quick' && (
                          <Button size="small" onClick={() => take(f.fuse, f.best)}>
                            Take {f.best} A
                          </Button>
                        )}
                    </div>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <aside className="side" tabIndex={0} aria-label="grounds, and lengths before any fuse">
        <h2>Grounds</h2>
        <p className="quiet">How far each stands above the battery’s negative terminal.</p>
        <table className="table" aria-label="grounds">
          <thead>
            <tr>
              <th>ground</th>
              <th>everything on</th>
              <th>crank</th>
            </tr>
          </thead>
          <tbody>
            {view.grounds.map((g) => (
              <tr key={g.name} title={`${g.joins}${g.led ? '' : ': nobody has said how it is led'}`}>
                <td>
                  {g.name}
                  {!g.led && <span className="quiet"> assumed</span>}
                </td>
                <td className="mono">
                  {mV(g.full)}, {amps(g.amps)}
                </td>
                <td className="mono">{mV(g.crank)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {view.sensors.length > 0 && (
          <>
            <h2>What sensors read wrong by it</h2>
            <table className="table" aria-label="sensors">
              <tbody>
                {view.sensors.map((x) => (
                  <tr key={x.device + x.at}>
                    <td>
                      {x.device} <span className="quiet mono">{x.at}</span>
                    </td>
                    <td className="mono">{mV(x.full)}</td>
                    <td className="mono">{mV(x.crank)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
        <h2>Before any fuse</h2>
        <p className="quiet">
          Lengths between a source and the first fuse. The starter’s cable is exempt; everything else burns
          unhindered.
        </p>
        <table className="table">
          <tbody>
            {view.unprotected.map((b) => (
              <tr key={b.wire}>
                <td>
                  <span className="mono">{b.wire}</span>
                  {said(b.wire)
                    .filter((x) => x.code === 'battery-far')
                    .map((x) => (
                      <div key={x.code}>
                        <SeverityMark severity={x.severity} /> {x.text} {x.remedy}
                      </div>
                    ))}
                </td>
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

/** Volts as whole millivolts. */
const mV = (v: number) => `${(Math.round(v * 1000) || 0).toString().replace('-', '−')} mV`;
