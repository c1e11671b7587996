import { Input, Select } from 'antd';
import { useRef, useState } from 'react';
import { feedTableFile, useFeedTable } from '../../api/feed';
import type { LiveLine } from '../../api/types.gen';
import { VirtualRows } from '../../frame/VirtualRows';
import { useKey } from '../../keys/useKey';
import { amps } from '../../work/amps';
import { liveMeaning, liveWord } from '../../work/live';

const over = (s: LiveLine) => !!s.carries && s.amps > s.carries;

const filters: Record<string, [string, (s: LiveLine) => boolean]> = {
  all: ['everything', () => true],
  live: ['live', (s) => s.live === 'live'],
  back: ['fed back', (s) => s.live === 'back'],
  dead: ['dead', (s) => s.live === 'dead'],
  floating: ['floating', (s) => s.live === 'floating'],
  over: ['with more than it may carry', over],
  bare: ['live without a fuse before it', (s) => s.kind === 'wire' && s.live === 'live' && !s.fuse],
  device: ['devices', (s) => s.kind === 'device'],
};

interface Props {
  job: string;
  revision: number;
  position: string;
  on: string[];
  chosen: string;
  onChoose: (s: LiveLine) => void;
}

/** Every wire, cable and device in the position that is chosen. */
export function LiveTable({ job, revision, position, on, chosen, onChoose }: Props) {
  const asked = useFeedTable(job, revision, position, on);
  const [only, show] = useState('all');
  const [text, find] = useState('');
  const field = useRef<HTMLInputElement>(null);
  const all = asked.data?.rows ?? [];
  const want = text.trim().toLowerCase();
  const rows = all.filter(
    (s) => (filters[only]?.[1](s) ?? true) && (!want || `${s.name} ${s.text}`.toLowerCase().includes(want)),
  );
  const at = rows.findIndex((s) => s.name === chosen);
  const step = (by: number) => {
    const next = rows[Math.max(0, Math.min(rows.length - 1, at + by))];
    if (next) {
      onChoose(next);
    }
  };
  useKey('up', () => step(-1));
  useKey('down', () => step(1));
  useKey('/', (e) => {
    e.preventDefault();
    field.current?.focus();
  });
  return (
    <div className="livetable">
      <div className="bar feedkeys">
        <Select
          size="small"
          style={{ width: 240 }}
          aria-label="which lines"
          value={only}
          onChange={show}
          options={Object.entries(filters).map(([value, [label, is]]) => ({
            value,
            label: `${label} ${value === 'all' ? all.length : all.filter(is).length}`,
          }))}
        />
        <Input
          size="small"
          style={{ width: 220 }}
          placeholder="find: wire, device, function"
          aria-label="find in the table"
          value={text}
          onChange={(e) => find(e.target.value)}
          onPressEnter={() => field.current?.blur()}
          ref={(x) => {
            field.current = x?.input ?? null;
          }}
        />
        <span className="grow" />
        <a href={feedTableFile(job, position, on)}>CSV</a>
      </div>
      <VirtualRows
        rows={rows}
        keyOf={(s) => `${s.kind} ${s.name}`}
        estimate={28}
        label="what is live"
        className="livelines"
        testID="livelines"
        at={at}
        {...(at >= 0 ? { activeID: `line-${at}` } : {})}
        head={
          <div className="liveline linehead" role="row" aria-rowindex={1}>
            {['', 'for', 'is', 'volts', 'carries', 'may', 'lost', 'fuse'].map((w) => (
              <span key={w} role="columnheader">
                {w || 'wire, device'}
              </span>
            ))}
          </div>
        }
        draw={(s, i) => (
          <div
            id={`line-${i}`}
            role="row"
            aria-rowindex={i + 2}
            aria-selected={i === at}
            className={`liveline${i === at ? ' selected' : ''}`}
            onClick={() => onChoose(s)}
          >
            <span role="gridcell" className="mono">
              {s.name}
            </span>
            <span role="gridcell" className="quiet">
              {s.text || (s.kind === 'wire' ? '' : s.kind)}
            </span>
            <span role="gridcell" className={`is ${s.live}`} title={liveMeaning[s.live]}>
              {s.live === 'back' && '▲ '}
              {liveWord[s.live]}
            </span>
            <span role="gridcell" className="mono">
              {s.live === 'floating' ? '' : `${s.volts.toFixed(1)} V`}
            </span>
            <span role="gridcell" className="mono">
              {over(s) && '▲ '}
              {s.amps >= 0.0005 ? amps(s.amps) : ''}
            </span>
            <span role="gridcell" className="mono quiet">
              {s.carries ? amps(s.carries) : ''}
            </span>
            <span role="gridcell" className="mono">
              {s.kind !== 'device' && s.drop >= 0.005 ? `${s.drop.toFixed(2)} V` : ''}
            </span>
            <span role="gridcell" className="mono quiet" title={s.rating ? `${s.rating} A` : ''}>
              {s.fuse}
            </span>
          </div>
        )}
      />
    </div>
  );
}
