import { Button, Modal, Segmented, Select } from 'antd';
import { useState } from 'react';
import type { MatchView, Meeting } from '../../api/types.gen';
import type { Side } from '../../api/hooks';
import { metWords } from './ways';

interface Props {
  view: MatchView;
  onChoose: (met: Record<string, Meeting>, vehicle: Side) => void;
  onClose: () => void;
}

/** Says for each To connector how the finished harness meets it, and on which side the vehicle's own wiring is. */
export function MeetDialog({ view, onChoose, onClose }: Props) {
  const [met, setMet] = useState<Record<string, Meeting>>(view.meetings);
  const [vehicle, setVehicle] = useState<Side>(view.vehicle);
  const joins = Object.values(met).some((m) => m.met === 'stays');
  const say = (id: string, m: Meeting) => setMet({ ...met, [id]: m });
  return (
    <Modal
      open
      title="How is each connector met?"
      onCancel={onClose}
      width={720}
      footer={
        <Button type="primary" onClick={() => onChoose(met, vehicle)}>
          Keep
        </Button>
      }
    >
      <table className="table">
        <tbody>
          {view.to.connectors.map((c) => {
            const m = met[c.id] ?? { met: 'new' };
            const pair = m.met === 'kept' || m.met === 'plugs';
            return (
              <tr key={c.id}>
                <td>
                  <strong>{c.name}</strong>, {c.cavities.length}-way
                  <div className="quiet">{view.to.name}</div>
                </td>
                <td>
                  <div className="bar" style={{ gap: 6 }}>
                    <Select
                      style={{ width: 280 }}
                      aria-label={`housing ${c.name}`}
                      value={m.met}
                      onChange={(to: Meeting['met']) => {
                        const first =
                          view.from.connectors.find((f) => f.id === c.id) ?? view.from.connectors[0];
                        const needs = to === 'kept' || to === 'plugs';
                        say(c.id, needs && first ? { met: to, with: m.with ?? first.id } : { met: to });
                      }}
                      options={metWords.map((w) => ({ value: w.met, label: w.says }))}
                    />
                    {pair && (
                      <Select
                        style={{ width: 150 }}
                        aria-label={`${c.name} with`}
                        value={m.with ?? ''}
                        onChange={(from: string) => say(c.id, { met: m.met, with: from })}
                        options={view.from.connectors.map((f) => ({
                          value: f.id,
                          label: `${f.name}, ${f.cavities.length}-way`,
                        }))}
                      />
                    )}
                  </div>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {joins && (
        <div className="bar" style={{ gap: 8, marginTop: 10 }}>
          The vehicle’s own wiring is
          <Segmented<Side>
            size="small"
            aria-label="the vehicle’s own wiring"
            value={vehicle}
            onChange={setVehicle}
            options={[
              { value: 'from', label: view.from.name },
              { value: 'to', label: view.to.name },
            ]}
          />
        </div>
      )}
      <p className="quiet">
        In a kept or new housing terminals move. What stays with its wires is joined: the vehicle’s wire is
        measured first, then taken over or tapped, or ours goes into its plug. What plugs on faces its
        cavities.
      </p>
    </Modal>
  );
}
