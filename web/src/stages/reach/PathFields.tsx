import { Button, Checkbox, Input, Select } from 'antd';
import { useState } from 'react';
import { usePack } from '../../api/reach';
import type { ReachView, RoutePath } from '../../api/types.gen';
import { CrossSection } from './CrossSection';
import { Quantity } from './Quantity';
import { across } from './words';

interface Props {
  job: string;
  view: ReachView;
  path: RoutePath;
  onChange: (change: Partial<RoutePath>) => void;
  onGone: () => void;
}

const covers = [
  { value: '', label: 'bare' },
  { value: 'tape', label: 'tape' },
  { value: 'sleeve', label: 'split sleeve' },
  { value: 'sock', label: 'heat-shrink sock' },
];

/** A path: its length, what lies along it, and its bundle. */
export function PathFields({ job, view, path, onChange, onGone }: Props) {
  const bundle = view.bundles.find((b) => b.path === path.id);
  const pack = usePack(job, bundle && bundle.wires.length > 0 ? path.id : undefined, view.revision);
  const [waits, setWaits] = useState(path.waits ?? '');
  const [note, setNote] = useState(path.note ?? '');
  return (
    <div className="stack">
      <h2>{path.id}</h2>
      <div className="fields">
        <span>length</span>
        <Quantity
          label="length of the path"
          value={path.length}
          onChange={(length) => onChange({ length })}
          testID="path-length"
        />
        <span>measured to ±</span>
        <Quantity
          label="spread of the length"
          value={path.spread ?? 0}
          empty="a twentieth"
          onChange={(spread) => onChange({ spread })}
        />
        <span>hottest air</span>
        <Quantity
          label="hottest air along the path"
          value={path.heat ?? 0}
          unit="°C"
          least={-60}
          most={1000}
          empty="40"
          onChange={(heat) => onChange({ heat })}
        />
        <span>cover</span>
        <Select
          size="small"
          aria-label="cover of the path"
          value={path.cover ?? ''}
          options={covers}
          onChange={(cover: NonNullable<RoutePath['cover']>) => onChange({ cover })}
        />
        <span>comes out with</span>
        <Select
          size="small"
          aria-label="service group of the path"
          value={path.group ?? ''}
          options={['', 'engine', 'gearbox', 'driveline', 'body'].map((g) => ({
            value: g,
            label: g || 'as its stations',
          }))}
          onChange={(group: string) => onChange({ group })}
        />
        <span>waits for</span>
        <Input
          size="small"
          aria-label="the part that its length waits for"
          placeholder="nothing"
          value={waits}
          maxLength={80}
          onChange={(e) => setWaits(e.target.value)}
          onBlur={() => waits !== (path.waits ?? '') && onChange({ waits })}
          onPressEnter={(e) => e.currentTarget.blur()}
        />
        <span>note</span>
        <Input
          size="small"
          aria-label="note about the path"
          placeholder="clips, brackets, clearances"
          value={note}
          maxLength={200}
          onChange={(e) => setNote(e.target.value)}
          onBlur={() => note !== (path.note ?? '') && onChange({ note })}
          onPressEnter={(e) => e.currentTarget.blur()}
        />
      </div>
      <div className="checks">
        <Checkbox checked={path.moving ?? false} onChange={(e) => onChange({ moving: e.target.checked })}>
          something moves there
        </Checkbox>
        <Checkbox checked={path.wet ?? false} onChange={(e) => onChange({ wet: e.target.checked })}>
          wet
        </Checkbox>
        <Checkbox checked={path.edge ?? false} onChange={(e) => onChange({ edge: e.target.checked })}>
          a raw edge
        </Checkbox>
        <Checkbox checked={path.wall ?? false} onChange={(e) => onChange({ wall: e.target.checked })}>
          through a wall
        </Checkbox>
        {path.wall && (
          <Checkbox checked={path.plugs ?? false} onChange={(e) => onChange({ plugs: e.target.checked })}>
            housings passed through, not fitted after
          </Checkbox>
        )}
      </div>
      {bundle && bundle.wires.length > 0 ? (
        <>
          <h3>
            <span className="mono">{bundle.wires.length}</span> wires,{' '}
            <span className="mono">{across(bundle.laid)}</span> as laid
          </h3>
          {pack.data && <CrossSection pack={pack.data} size={200} />}
          <p className="quiet">
            As laid: 1.2 × √Σd², common practice; d from ISO 6722-1. With its cover {across(bundle.over)}.
            {(bundle.assumed ?? 0) > 0 && ` ${bundle.assumed} wires of unknown size are taken for 0.5 mm².`}
          </p>
        </>
      ) : (
        <p className="quiet">No wire runs along it.</p>
      )}
      <div>
        <Button size="small" onClick={onGone}>
          Take this path away
        </Button>
      </div>
    </div>
  );
}
