import './work.css';
import { Link } from 'react-router';
import { useWireLive } from '../api/feed';
import { amps } from './amps';
import { liveMeaning, liveWord } from './live';

/** What a wire is in each position of the key, as Feed reckons it: at any wire's reasons. */
export function WireLive({
  job,
  revision,
  of,
}: {
  job: string;
  revision: number;
  of: Record<string, string>;
}) {
  const live = useWireLive(job, revision, of);
  const wires = live.data?.wires ?? [];
  if (wires.length === 0) {
    return null;
  }
  return (
    <section className="wirelive" data-testid="wirelive">
      <h3>
        <Link to="../feed">Live</Link>{' '}
        <Link className="quiet" to={`../handover?part=book&wire=${encodeURIComponent(wires[0]?.wire ?? '')}`}>
          its drawing
        </Link>
      </h3>
      {wires.map((w) => (
        <div key={w.wire}>
          {wires.length > 1 && <strong className="mono">{w.wire}</strong>}
          <table className="table">
            <tbody>
              {w.in.map((x) => (
                <tr key={x.position}>
                  <td className="quiet">{x.position}</td>
                  <td title={liveMeaning[x.live]}>{liveWord[x.live]}</td>
                  <td className="mono">{x.live === 'floating' ? '' : `${x.volts.toFixed(1)} V`}</td>
                  <td className="mono">{x.amps >= 0.0005 ? amps(x.amps) : ''}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <div className="quiet">
            {w.fuse && `behind fuse ${w.fuse}${w.rating ? `, ${w.rating} A` : ''}`}
            {w.unguarded && 'before any fuse'}
            {!!w.carries && `${w.fuse || w.unguarded ? '; ' : ''}may carry ${amps(w.carries)}`}
          </div>
        </div>
      ))}
    </section>
  );
}
