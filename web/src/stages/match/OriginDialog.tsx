import { Button, Input, Modal, Select, type RefSelectProps } from 'antd';
import { useRef, useState } from 'react';
import type { MatchView, Ref, WireOrigin } from '../../api/types.gen';
import { refKey, refName } from '../../harness/cavity';
import { onEnter } from '../../keys/onEnter';
import { FocusAt } from '../../keys/FocusAt';

interface Props {
  view: MatchView;
  name: string;
  onChoose: (origin: WireOrigin) => void;
  onClose: () => void;
}

/** Asks where a new wire begins: a cavity, a splice, a fuse or a ground point; or who sees to its open end. */
export function OriginDialog({ view, name, onChoose, onClose }: Props) {
  const [point, setPoint] = useState('');
  const [owner, setOwner] = useState('');
  const rows = [...view.from.rows, ...view.to.rows].filter((r) => !r.empty);
  const search = useRef<RefSelectProps>(null);
  const atPoint = (kind: 'fuse' | 'ground') => {
    const text = point.trim();
    if (text) {
      onChoose({ kind, name: text });
    }
  };
  const waits = () => owner.trim() && onChoose({ kind: 'open', owner: owner.trim() });
  const listed = (value: string) => {
    const splice = value.startsWith('splice ') ? value.slice(7) : '';
    if (splice) {
      onChoose({ kind: 'splice', name: splice });
      return;
    }
    const row = rows.find((r) => refKey(r.ref) === value);
    const at: Ref | undefined = row?.ref ?? cavityIn(value);
    if (at) {
      onChoose({ kind: 'cavity', at });
    }
  };
  return (
    <Modal
      open
      title={`Where does the new wire of ${name} begin?`}
      onCancel={onClose}
      footer={null}
      width={560}
    >
      <div className="stack">
        <Select
          ref={search}
          style={{ width: '100%' }}
          aria-label="where it begins"
          placeholder="a cavity, its function or circuit number; a splice; a fuse"
          showSearch={{ optionFilterProp: 'label' }}
          options={[
            ...rows.map((r) => ({
              value: refKey(r.ref),
              label: [refName(r.ref), r.function, r.circuit].filter(Boolean).join(' · '),
            })),
            ...view.points.map((p) => ({ value: p, label: p })),
          ]}
          onChange={listed}
        />
        <div className="bar" style={{ gap: 6 }}>
          <Input
            aria-label="a fuse or a ground point by name"
            placeholder="or a fuse, a ground point by name"
            value={point}
            maxLength={80}
            onChange={(e) => setPoint(e.target.value)}
          />
          <Button disabled={!point.trim()} onClick={() => atPoint('fuse')}>
            At this fuse
          </Button>
          <Button disabled={!point.trim()} onClick={() => atPoint('ground')}>
            At this ground
          </Button>
        </div>
        <div className="bar" style={{ gap: 6 }}>
          <Input
            aria-label="who sees to the open end"
            placeholder="or not known yet: who sees to it"
            value={owner}
            maxLength={80}
            onChange={(e) => setOwner(e.target.value)}
            onPressEnter={onEnter(waits)}
          />
          <Button disabled={!owner.trim()} onClick={waits}>
            It waits
          </Button>
        </div>
      </div>
      <FocusAt field={search} />
    </Modal>
  );
}

/** A cavity as people write it: F5, G2-1. */
function cavityIn(text: string): Ref | undefined {
  const m = /^(.+)-([^-]+)$/.exec(text) ?? /^([A-Za-z]+)(\d+)$/.exec(text);
  return m?.[1] && m[2] ? { connector: m[1], cavity: m[2] } : undefined;
}
