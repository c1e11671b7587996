import { Button } from 'antd';
import { useDisconnect } from '../../api/reach';
import type { ContactPlug, Disconnect, PartedWire } from '../../api/types.gen';
import type { PartProps } from './part';
import { few } from './words';

/** What ties two parts of the vehicle together, and the plugs that part them: taken or taken back. */
export function Parting({ job, view, onError, of: d }: PartProps & { of: Disconnect }) {
  const change = useDisconnect(job);
  const send = (back: boolean) =>
    change.mutate({ seen: view.revision, between: d.between, back }, { onError });
  return (
    <section data-testid="disconnect">
      <h2>
        {d.between[0]} from {d.between[1]}: {d.wires.length} wires
      </h2>
      <p>
        {d.parted.length > 0 && `${d.parted.length} end in an in-line plug and come apart. `}
        {d.ties.length > 0 ? (
          <>
            <strong>{d.ties.length}</strong> would tie the one to the other
            {d.where ? `, most of them across ${d.where}` : ''}: <span className="mono">{few(d.ties)}</span>.
          </>
        ) : (
          'Nothing ties them.'
        )}
        {d.shields && ` Keep each shield and its cores in one plug: ${d.shields.join(', ')}.`}
        {d.pairs && ` Keep pairs in neighbouring cavities: ${d.pairs.join(', ')}.`}
      </p>
      {d.taken ? <Taken of={d} /> : d.plugs.length > 0 && <Offered between={d.between} plugs={d.plugs} />}
      {d.taken ? (
        <Button size="small" loading={change.isPending} onClick={() => send(true)}>
          Take it back
        </Button>
      ) : (
        d.plugs.length > 0 && (
          <Button size="small" loading={change.isPending} onClick={() => send(false)}>
            Take this disconnect
          </Button>
        )
      )}
    </section>
  );
}

function Offered({ between, plugs }: { between: readonly string[]; plugs: readonly ContactPlug[] }) {
  return (
    <table className="table" aria-label={`plugs between ${between.join(' and ')}`}>
      <thead>
        <tr>
          <th scope="col">sealed plugs</th>
          <th scope="col">wires</th>
          <th scope="col">why</th>
        </tr>
      </thead>
      <tbody>
        {plugs.map((p) => (
          <tr key={p.blade}>
            <td className="mono">
              {p.blade
                ? `${p.ways.map((w) => `${w}-way`).join(' + ')}, ${p.blade} mm`
                : `${p.wires.length} on studs`}
            </td>
            <td className="mono">{p.wires.length}</td>
            <td className="quiet">{p.reason}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Taken({ of: d }: { of: Disconnect }) {
  const byPlug = new Map<string, PartedWire[]>();
  for (const c of d.cavities ?? []) {
    byPlug.set(c.plug, [...(byPlug.get(c.plug) ?? []), c]);
  }
  return (
    <table className="table" aria-label={`cavities between ${d.between.join(' and ')}`}>
      <thead>
        <tr>
          <th scope="col">plug</th>
          <th scope="col">cavity and wire</th>
          <th scope="col">to have there</th>
        </tr>
      </thead>
      <tbody>
        {d.taken?.map((p, i) => (
          <tr key={p.id}>
            <td className="mono nowrap">
              {p.id}
              <br />
              {p.blade ? `${p.ways}-way, ${p.blade} mm` : `${p.ways} studs`}
            </td>
            <td className="mono">
              {(byPlug.get(p.id) ?? [])
                .map((c) => ({ ...c, n: Number(c.cavity) }))
                .sort((a, b) => a.n - b.n)
                .map((c) => (
                  <span key={c.wire} className="cavitywire" title={`at ${c.at}`}>
                    {c.cavity} {c.wire}
                  </span>
                ))}
            </td>
            <td className="quiet">{d.parts?.[i]}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
