import { Button, Input } from 'antd';
import { useState } from 'react';
import { NumberField } from '../../frame/NumberField';
import { explain } from '../../api/client';
import { useAskRig } from '../../api/prove';
import type { RigSays, Wheel } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { useAddress } from './useMeter';

const fields: [keyof Wheel, string][] = [
  ['teeth', 'places'],
  ['missing', 'missing'],
  ['rpm', 'rpm'],
];

/** The bench rig: a toothed wheel before the crank sensor, and an indicator on each output. */
export function RigPart({ job }: { job: string }) {
  const [address, setAddress] = useAddress('rig');
  const [wheel, turn] = useState<Wheel>({ teeth: 60, missing: 2, rpm: 900 });
  const [says, tell] = useState<RigSays | undefined>();
  const ask = useAskRig(job);
  const on = says?.lit.filter((l) => l.on) ?? [];
  return (
    <aside className="reasons" aria-label="bench rig">
      <h2>Bench rig</h2>
      <Input
        size="small"
        aria-label="address of a bench rig"
        prefix={<span className="quiet">rig at</span>}
        placeholder="127.0.0.1:5026"
        value={address}
        onChange={(e) => setAddress(e.target.value.trim())}
      />
      <div className="bar">
        {fields.map(([key, word]) => (
          <span key={key} className="quiet">
            {word}{' '}
            <NumberField
              label={word}
              width={70}
              min={0}
              value={wheel[key]}
              onChange={(x) => x !== undefined && turn({ ...wheel, [key]: x })}
            />
          </span>
        ))}
      </div>
      <Button
        size="small"
        disabled={!address}
        loading={ask.isPending}
        onClick={() =>
          ask.mutate({ address, wheel }, { onSuccess: tell, onError: (e) => notice.warning(explain(e), 8) })
        }
      >
        Turn the wheel and look
      </Button>
      {says && (
        <div data-testid="rig">
          <p>
            {says.read ? (
              <>
                {says.edges} edges: <strong className="mono">{Math.round(says.rpm ?? 0)}</strong> rpm,{' '}
                {says.missing} missing.{' '}
                {says.dial ? (
                  <>
                    The tachometer must show <strong className="mono">{Math.round(says.dial)}</strong> rpm.
                  </>
                ) : (
                  'Join has no sum for the tachometer.'
                )}
              </>
            ) : (
              `▲ ${says.edges} edges that are not those of such a wheel: count its places and its gap.`
            )}
          </p>
          <p>
            {on.length === 0
              ? `None of ${says.lit.length} indicators lights.`
              : `Lit: ${on.map((l) => l.output).join(', ')}, of ${says.lit.length}.`}
          </p>
        </div>
      )}
    </aside>
  );
}
