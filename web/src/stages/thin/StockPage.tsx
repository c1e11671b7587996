import { useWork } from '../../api/thin';
import { WireSwatch } from '../../harness/WireSwatch';
import { colourName } from '../../harness/insulation';

/** What came out and is worth keeping, and what to bring from the donor before it is gone. */
export function StockPage({ job }: { job: string }) {
  const work = useWork(job);
  if (!work.data) {
    return <div aria-busy="true" />;
  }
  const { stock, off, clips, yard } = work.data;
  return (
    <div className="stockpage stack" tabIndex={0} role="region" aria-label="stock and yard">
      <section>
        <h2>Wire</h2>
        {stock.length === 0 && <p className="quiet">Nothing goes yet, so nothing comes out.</p>}
        {stock.length > 0 && (
          <table className="table" data-testid="stock">
            <thead>
              <tr>
                <th>colour</th>
                <th>size</th>
                <th>pieces</th>
                <th>out</th>
                <th>usable length</th>
                <th>wires</th>
              </tr>
            </thead>
            <tbody>
              {stock.map((l) => (
                <tr key={`${l.colour} ${l.size ?? ''}`}>
                  <td>
                    <span className="bar" style={{ gap: 6 }}>
                      <WireSwatch colour={l.swatch} bare="right" />
                      <span className="mono">{colourName(l.swatch) || 'not known'}</span>
                    </span>
                  </td>
                  <td className="mono">{l.size ? `${l.size} mm²` : ''}</td>
                  <td className="mono">{l.pieces}</td>
                  <td className="mono">{l.out}</td>
                  <td className="mono">
                    {(l.length / 1000).toFixed(2)} m{l.unknown > 0 && ` + ${l.unknown} not measured`}
                  </td>
                  <td className="mono quiet">{l.shown.join(', ')}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
      <section>
        <h2>Connectors</h2>
        {off.length === 0 && <p className="quiet">No connector comes off.</p>}
        {off.map((l) => (
          <div key={l.id}>
            <strong className="mono">{l.id}</strong> {l.device}{' '}
            <span className="quiet">
              {l.tails > 0 ? `a pigtail with ${l.tails} wires` : 'the housing alone'}
              {l.socket && ', a socket for fuses and relays'}
              {l.off ? ', off' : ''}
            </span>
          </div>
        ))}
      </section>
      {clips.length > 0 && (
        <section>
          <h2>Clips</h2>
          {clips.map((c) => (
            <div key={c.branch}>
              <span className="mono">{c.clips}</span> from {c.branch}
            </div>
          ))}
        </section>
      )}
      <section>
        <h2>Bring from the donor before it is gone</h2>
        {yard.length === 0 && <p className="quiet">Nothing that follows from what the job says of it.</p>}
        <ul>
          {yard.map((y) => (
            <li key={y.text}>
              {y.text} <span className="quiet">{y.why}</span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
