import { Button, Input } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { useAskUnit, useSetReading } from '../../api/prove';
import type { ProveView, UnitRequest, UnitSays } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { ReasonDialog } from '../../work/ReasonDialog';
import { LiveDialog } from './LiveDialog';
import { OutputsPart } from './OutputsPart';
import { RigPart } from './RigPart';
import { SimulatedBar } from './SimulatedBar';
import { useAddress } from './useMeter';
import { PartLink } from './PartLink';

const whole = { key: 'run', battery: true, units: true };

/** What the control unit says of itself, sees and complains of; its outputs, one at a time; the bench rig. */
export function UnitPart({ job, view }: { job: string; view: ProveView }) {
  const [address, setAddress] = useAddress('unit');
  const ask = useAskUnit(job);
  const set = useSetReading(job);
  const [says, tell] = useState<UnitSays | undefined>();
  const [what, asked] = useState('');
  const [dialog, open] = useState<'live' | 'clear' | undefined>();
  const go = (r: Omit<UnitRequest, 'address'>) => {
    if (view.bench?.unit === address && !view.simulated) {
      notice.warning('That is the unit of the simulated vehicle: show the simulated one to ask it.', 8);
      return;
    }
    asked(r.what);
    ask.mutate({ ...r, address }, { onSuccess: tell, onError: (e) => notice.warning(explain(e), 8) });
  };
  const taken = new Set(view.others.filter((l) => l.kind === 'works').map((l) => l.a));
  return (
    <div className="unitgrid">
      <section className="unitpart">
        <SimulatedBar job={job} view={view} start />
        <div className="bar">
          <Input
            size="small"
            style={{ width: 250 }}
            aria-label="address of a control unit"
            prefix={<span className="quiet">unit at</span>}
            placeholder="192.168.7.10:13400"
            value={address}
            onChange={(e) => setAddress(e.target.value.trim())}
          />
          {(['identity', 'codes', 'values'] as const).map((w) => (
            <Button
              key={w}
              size="small"
              disabled={!address || ask.isPending || (w === 'values' && view.live.length === 0)}
              loading={ask.isPending && what === w}
              onClick={() => go({ what: w })}
            >
              {{ identity: 'Who is it?', codes: 'Read codes', values: 'Read values' }[w]}
            </Button>
          ))}
          <span className="grow" />
          <Button size="small" onClick={() => open('live')}>
            What it can be asked for ({view.live.length})…
          </Button>
        </div>
        <p className="quiet">
          Key in run, battery on a charger. ISO 14229 over ISO 13400; other lines want an adapter that speaks
          it.
        </p>
        {says && what === 'identity' && (
          <table className="table" aria-label="identity">
            <tbody>
              {says.identity.map((x) => (
                <tr key={x.id}>
                  <td>{x.what}</td>
                  <td className="mono">{x.says}</td>
                  <td className="quiet mono">{x.id}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {says && (what === 'codes' || what === 'clear') && (
          <>
            <h2>Codes</h2>
            {says.codes.length === 0 && <p>✓ The unit has no code stored.</p>}
            <table className="table" aria-label="codes" data-testid="codes">
              <tbody>
                {says.codes.map((x) => (
                  <tr key={x.code}>
                    <td title={x.now ? 'it fails now' : 'stored, and in order now'}>{x.now ? '✕' : '○'}</td>
                    <td className="mono">{x.code}</td>
                    <td>
                      {x.text ?? (
                        <span className="quiet">not among the generic ones: see the unit’s papers</span>
                      )}
                      {x.output && (
                        <div className="quiet">
                          output <span className="mono">{x.output}</span>, {x.device}
                        </div>
                      )}
                      {x.gone && <div className="quiet">expected: {x.gone} is not all there any more</div>}
                    </td>
                    <td className="quiet">{x.now ? 'now' : 'stored'}</td>
                    <td>
                      {x.now &&
                        x.device &&
                        x.output &&
                        (taken.has(x.device) ? (
                          <PartLink part="fault">Find the fault</PartLink>
                        ) : (
                          <Button
                            size="small"
                            onClick={() =>
                              set.mutate(
                                {
                                  seen: view.revision,
                                  reading: {
                                    id: '',
                                    kind: 'works',
                                    a: x.device ?? '',
                                    b: '',
                                    setup: { ...whole, drive: x.output ?? '' },
                                    value: 0,
                                  },
                                },
                                { onError: (e) => notice.warning(explain(e)) },
                              )
                            }
                          >
                            Take as a symptom
                          </Button>
                        ))}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {says.codes.length > 0 && (
              <div className="bar">
                <Button size="small" onClick={() => open('clear')}>
                  Clear the codes…
                </Button>
                <span className="quiet">Note them first: Records, Programming, codes before.</span>
              </div>
            )}
          </>
        )}
        <OutputsPart
          job={job}
          view={view}
          says={says?.values ?? []}
          busy={ask.isPending}
          {...(address ? { onDrive: (id: string) => go({ what: 'drive', value: id, seconds: 2 }) } : {})}
        />
      </section>
      <RigPart job={job} />
      {dialog === 'live' && <LiveDialog job={job} view={view} onClose={() => open(undefined)} />}
      {dialog === 'clear' && (
        <ReasonDialog
          title="Clear the codes?"
          why="They are gone from the unit then, with what they say of how it came to them. What is still wrong comes again."
          onClose={() => open(undefined)}
          onReason={() => {
            open(undefined);
            go({ what: 'clear' });
          }}
        />
      )}
    </div>
  );
}
