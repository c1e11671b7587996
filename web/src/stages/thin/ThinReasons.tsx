import { Button, Input } from 'antd';
import { useState } from 'react';
import { useCut } from '../../api/thin';
import type { Belief, JointVerdict, ThinView } from '../../api/types.gen';
import { SeverityMark } from '../../frame/SeverityMark';
import { colourName } from '../../harness/insulation';
import { WireSwatch } from '../../harness/WireSwatch';
import { ChoiceGlyph, choiceWord, type Choice } from './ChoiceGlyph';
import { CutHere } from './CutHere';
import type { Selection } from './selection';
import { WireLive } from '../../work/WireLive';
import { TraceDialog } from './TraceDialog';
import { endName } from './WireRows';

interface Props {
  job: string;
  view: ThinView;
  selected: Selection | undefined;
  beliefs: Belief[];
  reason: string;
  onReason: (r: string) => void;
  onChoose: (c: Choice) => void;
  onSelect: (s: Selection) => void;
}

const fateWord: Record<JointVerdict['fate'], string> = {
  leave: 'leave it',
  trim: 'trim the dead legs',
  through: 'one through wire',
  rejoin: 'join without it',
  remove: 'take it apart',
};

/** Answers "why?" for what is selected, says what a cut there would kill, and is where it is decided. */
export function ThinReasons(p: Props) {
  const { view, selected } = p;
  if (!selected) {
    return (
      <aside className="reasons" aria-label="reasons">
        <h2>Nothing is selected</h2>
        <p className="quiet">
          Choose a system at the left, or a connector, a splice or a branch in the drawing. Then <kbd>K</kbd>{' '}
          keeps it, <kbd>G</kbd> lets it go, <kbd>R</kbd> takes a decision back. What is undecided stays.
        </p>
        <Open view={view} onSelect={p.onSelect} />
      </aside>
    );
  }
  const findings = view.findings.filter((f) => f.subject === selected.id);
  return (
    <aside className="reasons" aria-label="reasons">
      <Title view={view} selected={selected} />
      {selected.on === 'wire' && <WireFacts {...p} id={selected.id} />}
      {selected.on === 'splice' && <SpliceFacts view={view} id={selected.id} onSelect={p.onSelect} />}
      {selected.on === 'branch' && <BranchFacts view={view} id={selected.id} />}
      {selected.on !== 'splice' && selected.on !== 'branch' && <Decide {...p} selected={selected} />}
      {findings.map((f) => (
        <div key={f.code + f.text} className="inreasons">
          <SeverityMark severity={f.severity} /> {f.text} <span className="quiet">{f.remedy}</span>
        </div>
      ))}
      {(selected.on === 'wire' ||
        selected.on === 'connector' ||
        selected.on === 'module' ||
        selected.on === 'splice') && (
        <Cut job={p.job} selected={selected} revision={view.revision} onSelect={p.onSelect} />
      )}
    </aside>
  );
}

/** What waits for a decision, and what is wrong or doubtful: where to begin when nothing is selected. */
function Open({ view, onSelect }: { view: ThinView; onSelect: (s: Selection) => void }) {
  const open = view.systems
    .filter((s) => s.undecided > 0 && !s.locked)
    .sort((a, b) => b.undecided - a.undecided)
    .slice(0, 6);
  const contested = view.verdicts
    .flatMap((v, i) => (v.contested ? [view.wires[i]?.id ?? ''] : []))
    .slice(0, 8);
  return (
    <>
      {open.length > 0 && (
        <>
          <h3>Most undecided</h3>
          {open.map((s) => (
            <div key={s.system} className="openrow">
              <button className="plain" onClick={() => onSelect({ on: 'system', id: s.system })}>
                {s.system || 'no system'}
              </button>
              <span className="mono quiet">
                {s.undecided} of {s.wires} wires
              </span>
            </div>
          ))}
        </>
      )}
      {contested.length > 0 && (
        <>
          <h3>Pulled both ways</h3>
          <p>
            {contested.map((id) => (
              <button key={id} className="plain mono" onClick={() => onSelect({ on: 'wire', id })}>
                {id}{' '}
              </button>
            ))}
          </p>
        </>
      )}
      {view.findings.length > 0 && <h3>Wrong or doubtful here</h3>}
      {view.findings.slice(0, 8).map((f) => (
        <div key={f.code + f.text} className="inreasons">
          <SeverityMark severity={f.severity} /> {f.text} <span className="quiet">{f.remedy}</span>
        </div>
      ))}
    </>
  );
}

function Title({ view, selected }: { view: ThinView; selected: Selection }) {
  if (selected.on === 'wire') {
    const i = view.wires.findIndex((w) => w.id === selected.id);
    const wire = view.wires[i];
    const v = view.verdicts[i];
    return (
      <div>
        <h2 className="bar" style={{ gap: 8 }}>
          <span className="mono">{selected.id}</span>{' '}
          {wire && <WireSwatch colour={wire.colour} bare="right" />}
          <span className="mono quiet">{wire && colourName(wire.colour)}</span>
        </h2>
        <div>{wire?.function ?? 'nobody knows what for'}</div>
        {v && (
          <div className="bar" style={{ gap: 6, marginTop: 4 }} data-testid="verdict">
            <ChoiceGlyph choice={v.choice} contested={v.contested} />
            <strong>{choiceWord[v.choice]}</strong>
            <span className="quiet">{whyOf(v)}</span>
          </div>
        )}
      </div>
    );
  }
  const word = selected.on === 'module' ? '' : selected.on + ' ';
  return (
    <h2>
      {word}
      {selected.id || 'no system'}
    </h2>
  );
}

function whyOf(v: ThinView['verdicts'][number]): string {
  if (v.exception) {
    return v.reason ? `decided here: ${v.reason}` : 'decided about this wire itself';
  }
  if (v.by) {
    return `from ${v.by}${v.reason ? `: ${v.reason}` : ''}`;
  }
  return v.choice === '' ? 'it stays until it is decided' : 'follows from its circuit';
}

function WireFacts({ view, id, job, onSelect, beliefs }: Props & { id: string }) {
  const [tracing, trace] = useState(false);
  const wire = view.wires.find((w) => w.id === id);
  if (!wire) {
    return <p className="quiet">There is no such wire any more.</p>;
  }
  return (
    <section>
      <dl className="wirefacts">
        {wire.ends.map((e, i) => (
          <div key={i}>
            <dt>{i === 0 ? 'from' : 'to'}</dt>
            <dd>
              <button
                className="plain mono"
                disabled={!e.splice && !e.at?.connector}
                onClick={() =>
                  onSelect(
                    e.splice
                      ? { on: 'splice', id: e.splice }
                      : { on: 'connector', id: e.at?.connector ?? '' },
                  )
                }
              >
                {endName(e)}
              </button>
            </dd>
          </div>
        ))}
        {wire.size ? (
          <div>
            <dt>size</dt>
            <dd className="mono">{wire.size} mm²</dd>
          </div>
        ) : null}
        {wire.length ? (
          <div>
            <dt>length</dt>
            <dd className="mono">{wire.length} mm</dd>
          </div>
        ) : null}
        {wire.pair || wire.shield ? (
          <div>
            <dt>{wire.pair ? 'twisted' : 'shield'}</dt>
            <dd className="mono">{wire.pair ?? wire.shield}</dd>
          </div>
        ) : null}
        {wire.added ? (
          <div>
            <dt>added by</dt>
            <dd>{wire.added}</dd>
          </div>
        ) : null}
      </dl>
      {wire.implied && <p className="quiet">Implied: nobody has seen this wire from end to end.</p>}
      {wire.note && <p className="quiet">{wire.note}</p>}
      {beliefs
        .filter((b) => b.wire === id)
        .map((b) => (
          <p key={b.by + b.now} className="quiet" data-testid="belief">
            Was believed: {b.was}. Now: {b.now} {b.who && `(${b.who})`}
          </p>
        ))}
      <Button size="small" onClick={() => trace(true)}>
        Trace it…
      </Button>
      {tracing && <TraceDialog job={job} revision={view.revision} wire={wire} onClose={() => trace(false)} />}
      <WireLive job={job} revision={view.revision} of={{ wire: id }} />
    </section>
  );
}

function SpliceFacts({ view, id, onSelect }: { view: ThinView; id: string; onSelect: Props['onSelect'] }) {
  const joint = view.joints.find((j) => j.kind === 'splice' && j.id === id);
  const legs = view.wires
    .map((w, i) => ({ w, v: view.verdicts[i] }))
    .filter(({ w }) => w.ends.some((e) => e.splice === id));
  return (
    <section>
      {joint && (
        <p data-testid="fate">
          <strong>{fateWord[joint.fate]}</strong> <span className="quiet">{joint.why}</span>
        </p>
      )}
      {legs.map(({ w, v }) => (
        <button
          key={w.id}
          className="plain leg"
          onClick={() => onSelect({ on: 'wire', id: w.id })}
          title={v && whyOf(v)}
        >
          <ChoiceGlyph choice={v?.choice ?? ''} contested={v?.contested} />
          <span className="mono">{w.id}</span>
          <span className="grow">{endName(w.ends[w.ends[0].splice === id ? 1 : 0])}</span>
        </button>
      ))}
    </section>
  );
}

function BranchFacts({ view, id }: { view: ThinView; id: string }) {
  const limb = view.drawing.branches.find((b) => b.id === id);
  return limb ? (
    <p>
      {limb.length ? `${limb.length} mm long. ` : ''}
      {limb.keep + limb.goes + limb.undecided} wires run in it: {limb.keep} kept, {limb.goes} go,{' '}
      {limb.undecided} undecided.
    </p>
  ) : null;
}

function Decide({ view, selected, reason, onReason, onChoose }: Props & { selected: Selection }) {
  const system = view.systems.find((s) => s.system === selected.id);
  if (selected.on === 'system' && system?.locked) {
    return <p className="problem">{system.locked}</p>;
  }
  const by = decisionOf(view, selected);
  return (
    <section>
      {by && (
        <p className="quiet">
          Decided: {choiceWord[by.choice]}
          {by.reason && `: ${by.reason}`} {by.who && `(${by.who})`}
        </p>
      )}
      <Input
        size="small"
        aria-label="reason"
        placeholder="reason, kept with the decision"
        value={reason}
        maxLength={300}
        onChange={(e) => onReason(e.target.value)}
        onKeyDown={(e) => (e.key === 'Escape' || e.key === 'Enter') && e.currentTarget.blur()}
      />
      <div className="bar" style={{ gap: 6, marginTop: 6 }}>
        <Button size="small" onClick={() => onChoose('keep')}>
          <kbd>K</kbd> keep
        </Button>
        <Button size="small" onClick={() => onChoose('goes')}>
          <kbd>G</kbd> goes
        </Button>
        <Button size="small" onClick={() => onChoose('')}>
          <kbd>R</kbd> reopen
        </Button>
      </div>
    </section>
  );
}

/** What was decided about the selected thing itself. */
function decisionOf(view: ThinView, s: Selection) {
  for (const system of view.systems) {
    if (s.on === 'system' && system.system === s.id) {
      return system.by;
    }
    for (const d of system.devices) {
      if (s.on === 'module' && d.id === s.id) {
        return d.own ? d.by : undefined;
      }
      const plug = d.plugs.find((x) => s.on === 'connector' && x.id === s.id);
      if (plug) {
        return plug.by;
      }
    }
  }
  return undefined;
}

function Cut({
  job,
  selected,
  revision,
  onSelect,
}: {
  job: string;
  selected: Selection;
  revision: number;
  onSelect: Props['onSelect'];
}) {
  const cut = useCut(job, selected.on, selected.id, revision);
  return cut.data ? <CutHere cut={cut.data} onSelect={onSelect} /> : null;
}
