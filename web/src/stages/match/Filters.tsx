import { Input, type InputRef } from 'antd';
import { useImperativeHandle, useRef, type ReactNode, type Ref } from 'react';
import type { MatchView } from '../../api/types.gen';
import type { Filter } from './spread';

interface Props {
  view: MatchView;
  filter: Filter;
  onChange: (change: Record<string, string>) => void;
  onText: (text: string) => void;
  onDone: () => void;
  children: ReactNode;
  ref: Ref<HTMLInputElement>;
}

export function Filters({ view, filter, onChange, onText, onDone, children, ref }: Props) {
  const input = useRef<InputRef>(null);
  useImperativeHandle(ref, () => input.current?.input as HTMLInputElement);
  const systems = [
    ...new Set([...view.from.rows, ...view.to.rows].map((r) => r.signal.system ?? '').filter(Boolean)),
  ].sort();
  const connectors = [
    ...view.from.connectors.map((c) => ({ value: `from ${c.id}`, label: `from ${c.name}` })),
    ...view.to.connectors.map((c) => ({ value: `to ${c.id}`, label: `to ${c.name}` })),
  ];
  const toggle = (on: boolean, key: string, label: string) => (
    <label style={{ whiteSpace: 'nowrap', cursor: 'pointer' }}>
      <input
        type="checkbox"
        checked={on}
        onChange={(e) => onChange({ [key]: e.target.checked ? '1' : '' })}
      />{' '}
      {label}
    </label>
  );
  return (
    <div className="filters">
      <Input
        ref={input}
        size="small"
        style={{ width: 'clamp(84px, 11vw, 150px)' }}
        placeholder="find   /"
        aria-label="find"
        value={filter.text}
        onChange={(e) => onText(e.target.value)}
        onPressEnter={onDone}
        onKeyDown={(e) => {
          if (e.key === 'Escape') {
            onText('');
            onDone();
          }
        }}
      />
      <select
        className="plainselect"
        style={{ width: 'clamp(100px, 9.5vw, 122px)' }}
        aria-label="system"
        value={filter.system}
        onChange={(e) => onChange({ system: e.target.value })}
      >
        <option value="">all systems</option>
        {systems.map((s) => (
          <option key={s}>{s}</option>
        ))}
      </select>
      <select
        className="plainselect"
        style={{ width: 'clamp(100px, 10vw, 128px)' }}
        aria-label="connector"
        value={filter.connector}
        onChange={(e) => onChange({ connector: e.target.value })}
      >
        <option value="">all connectors</option>
        {connectors.map((c) => (
          <option key={c.value} value={c.value}>
            {c.label}
          </option>
        ))}
      </select>
      {toggle(filter.open, 'open', 'open only')}
      {toggle(filter.group, 'group', 'by device')}
      <span className="grow" />
      {children}
    </div>
  );
}
