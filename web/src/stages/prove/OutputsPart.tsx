import { Button } from 'antd';
import { useState } from 'react';
import type { ProveView, ValueSays } from '../../api/types.gen';
import { ReadingField } from './ReadingField';

interface Props {
  job: string;
  view: ProveView;
  says: readonly ValueSays[];
  busy: boolean;
  /** Has the unit work the output of that identifier; not there without a unit. */
  onDrive?: (id: string) => void;
}

/** The unit's outputs, worked one at a time: what is seen and heard is kept like any other reading. */
export function OutputsPart({ job, view, says, busy, onDrive }: Props) {
  const [driven, drive] = useState<string | undefined>();
  const said = new Map(says.map((x) => [x.id, x.says]));
  const read = (device: string, at: string) =>
    view.others.find((l) => l.kind === 'works' && l.a === device && l.setup.drive === at)?.reading;
  const rest = view.live.filter((v) => !v.drives && said.has(v.id));
  return (
    <>
      <h2>Outputs, one at a time</h2>
      <p className="warned">
        ▲ Hands clear of fans, pump and starter; neutral, chocks; coils without fuel. Indicators of high
        resistance only: never a filament lamp on an output.
      </p>
      {view.outputs.length === 0 && <p className="quiet">The plan has no unit with outputs.</p>}
      <table className="table" aria-label="outputs" data-testid="outputs">
        <tbody>
          {view.outputs.map((o) => {
            const value = view.live.find((v) => v.drives === o.at);
            const r = o.device ? read(o.device, o.at) : undefined;
            return (
              <tr key={o.at}>
                <td>{r ? (r.value ? '✓' : '✕') : '○'}</td>
                <td className="mono">{o.at}</td>
                <td>
                  {o.drives}
                  {o.device && <div className="quiet">{o.device}</div>}
                </td>
                <td className="mono oneline">
                  {value && said.has(value.id) ? `${said.get(value.id)?.toFixed(2)} ${value.unit ?? ''}` : ''}
                </td>
                <td>
                  {value && onDrive && (
                    <Button
                      size="small"
                      disabled={busy}
                      onClick={() => {
                        drive(o.at);
                        onDrive(value.id);
                      }}
                    >
                      Work it for 2 s
                    </Button>
                  )}
                </td>
                <td>
                  {driven === o.at && o.device && !busy && (
                    <ReadingField
                      job={job}
                      revision={view.revision}
                      measure={{
                        id: '',
                        kind: 'works',
                        a: o.device,
                        b: '',
                        setup: { key: 'run', battery: true, units: true, drive: o.at },
                      }}
                      onKept={() => drive(undefined)}
                    />
                  )}
                  {r && driven !== o.at && (
                    <span className="quiet">{r.value ? 'works' : 'does not work'}</span>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {rest.length > 0 && (
        <>
          <h2>What it sees</h2>
          <table className="table" aria-label="values" data-testid="values">
            <tbody>
              {rest.map((v) => (
                <tr key={v.id}>
                  <td className="mono quiet">{v.id}</td>
                  <td>{v.name}</td>
                  <td className="mono">
                    {said.get(v.id)?.toFixed(2)} {v.unit}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </>
  );
}
