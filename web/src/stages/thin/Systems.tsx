import { Button } from 'antd';
import { useState } from 'react';
import type { SystemLine, ThinDecision, ThinView } from '../../api/types.gen';
import { useCursor } from '../../keys/useCursor';
import { useKey } from '../../keys/useKey';
import { ChoiceGlyph, choiceWord, type Choice } from './ChoiceGlyph';
import type { Selection } from './selection';

interface Props {
  view: ThinView;
  /** Whether the arrow keys go up and down here. */
  keys: boolean;
  selected: Selection | undefined;
  onSelect: (s: Selection) => void;
  onDecide: (d: ThinDecision[]) => void;
}

/** The systems with their devices and plugs: decided as a whole here, the smaller ones inherit. */
export function Systems({ view, keys, selected, onSelect, onDecide }: Props) {
  const [open, setOpen] = useState<Record<string, boolean>>({});
  const is = (on: string, id: string) => selected?.on === on && selected.id === id;
  const holds = (s: SystemLine) =>
    s.devices.some((d) => is('module', d.id) || d.plugs.some((p) => is('connector', p.id)));
  const lines: Selection[] = view.systems.flatMap((s) => [
    { on: 'system' as const, id: s.system },
    ...((open[s.system] ?? holds(s))
      ? s.devices.flatMap((d) => [
          { on: 'module' as const, id: d.id },
          ...d.plugs.map((p) => ({ on: 'connector' as const, id: p.id })),
        ])
      : []),
  ]);
  const at = lines.findIndex((l) => is(l.on, l.id));
  const go = (to: number) => {
    const line = lines[Math.max(0, Math.min(lines.length - 1, to))];
    if (line) {
      onSelect(line);
    }
  };
  const twist = (shown: boolean) => {
    if (selected?.on === 'system') {
      setOpen({ ...open, [selected.id]: shown });
    }
  };
  useCursor(at, lines.length, go, keys);
  useKey('right', () => twist(true), { enabled: keys });
  useKey('left', () => twist(false), { enabled: keys });
  return (
    <aside className="systems" aria-label="systems">
      <Proposed view={view} onDecide={onDecide} />
      <div className="systemrow systemhead quiet">
        <span className="grow">system</span>
        <span>kept/go/open</span>
      </div>
      {view.systems.map((s) => {
        const name = s.system || 'no system';
        const shown = open[s.system] ?? holds(s);
        return (
          <section key={s.system}>
            <div className={`systemrow${is('system', s.system) ? ' selected' : ''}`}>
              <button
                className="plain twist"
                aria-label={`${shown ? 'close' : 'open'} ${name}`}
                aria-expanded={shown}
                onClick={() => setOpen({ ...open, [s.system]: !shown })}
              >
                {shown ? '▾' : '▸'}
              </button>
              <button className="plain grow name" onClick={() => onSelect({ on: 'system', id: s.system })}>
                {name}
                {s.locked && <span className="quiet"> not ours</span>}
              </button>
              <Split line={s} />
              <ChoiceGlyph choice={s.choice ?? ''} />
            </div>
            {shown &&
              s.devices.map((d) => (
                <div key={d.id} className="devicegroup">
                  <div className={`systemrow device${is('module', d.id) ? ' selected' : ''}`}>
                    <button
                      className="plain grow name"
                      onClick={() => onSelect({ on: 'module', id: d.id })}
                      title={d.added ? `added by ${d.added}` : undefined}
                    >
                      {d.id}
                      {d.added && <span className="quiet"> · added</span>}
                    </button>
                    <span className="quiet mono">{d.wires}</span>
                    <Mark choice={d.choice ?? ''} own={!!d.own} />
                  </div>
                  {d.plugs.map((p) => (
                    <div key={p.id} className={`systemrow plug${is('connector', p.id) ? ' selected' : ''}`}>
                      <button
                        className="plain grow name mono"
                        onClick={() => onSelect({ on: 'connector', id: p.id })}
                      >
                        {p.id}
                        {p.locked && <span className="quiet"> not ours</span>}
                      </button>
                      <Mark choice={p.choice ?? ''} own={p.by?.on === 'connector'} />
                    </div>
                  ))}
                </div>
              ))}
          </section>
        );
      })}
    </aside>
  );
}

/** What holds for a thing: its own decision in full, an inherited one in quiet. */
function Mark({ choice, own }: { choice: Choice; own: boolean }) {
  return (
    <span
      style={{ opacity: own || choice === '' ? 1 : 0.5, display: 'flex' }}
      title={choice && (own ? `${choiceWord[choice]}: decided here` : `${choiceWord[choice]}: inherited`)}
    >
      <ChoiceGlyph choice={choice} />
    </span>
  );
}

function Split({ line }: { line: SystemLine }) {
  return (
    <span
      className="quiet mono split"
      title={`${line.wires} wires: ${line.keep} kept, ${line.goes} go, ${line.undecided} undecided`}
    >
      {line.keep}/{line.goes}/{line.undecided}
    </span>
  );
}

/** What the kind of job and the matches suggest: taken over only when asked to. */
function Proposed({ view, onDecide }: { view: ThinView; onDecide: (d: ThinDecision[]) => void }) {
  const all = [
    ...view.proposed.map((p) => ({ ...p, why: p.why })),
    ...view.brought.map((d) => ({
      ...d,
      why: `In ${d.verify ?? 'an earlier job'}: ${d.reason ?? 'no reason given'}`,
    })),
  ];
  if (all.length === 0) {
    return null;
  }
  return (
    <section className="proposed" data-testid="proposed">
      <h3>Proposed, not applied</h3>
      {all.slice(0, 4).map((p) => (
        <div key={`${p.on} ${p.id}`} className="bar" style={{ gap: 6, flexWrap: 'nowrap' }}>
          <span className="grow" title={p.why}>
            {p.id} {choiceWord[p.choice]}
          </span>
          <Button
            size="small"
            onClick={() => onDecide([{ on: p.on, id: p.id, choice: p.choice, reason: p.why }])}
          >
            Take over
          </Button>
        </div>
      ))}
      {all.length > 4 && <div className="quiet">and {all.length - 4} more</div>}
    </section>
  );
}
