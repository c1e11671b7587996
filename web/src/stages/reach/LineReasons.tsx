import { Button, Checkbox, Input, Select } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { finiteOf } from '../../frame/number';
import { useLeftover, useSpan } from '../../api/reach';
import type { CutLine, ReachWire, Span } from '../../api/types.gen';
import { WireLive } from '../../work/WireLive';
import { WireSwatch } from '../../harness/WireSwatch';
import { colourName } from '../../harness/insulation';
import { useRecords } from '../../outbox/useOutbox';
import { Quantity } from './Quantity';
import type { PartProps } from './part';
import { chance, endName, mm, schoolWord, verdictWord } from './words';

interface Props extends PartProps {
  line: CutLine;
  wire: ReachWire;
  onMeasured: (m: { had?: number; need?: number }) => void;
}

/** Why a wire needs what it needs, what was measured, and what was decided about it. */
export function LineReasons({ job, view, line: l, wire: w, onMeasured, onError }: Props) {
  const measured = view.measured.find((m) => m.wire === l.wire);
  const joints = view.joints.filter((j) => j.wire === l.wire);
  return (
    <div className="stack">
      <div>
        <h2 className="bar" style={{ gap: 8 }}>
          <WireSwatch colour={w.colour} bare="right" /> <span className="mono">{l.wire}</span>
        </h2>
        <div>{w.function}</div>
        <div className="quiet">
          {[
            colourName(w.colour),
            w.size ? `${w.size} mm²` : 'size not known',
            w.pair ? `pair ${w.pair}` : '',
            w.shield ? `shield ${w.shield}` : '',
          ]
            .filter(Boolean)
            .join(' · ')}
        </div>
      </div>
      <p>
        <strong>
          {verdictWord[l.verdict]} {mm(l.by)}
        </strong>
        {l.at && l.verdict === 'extend' ? ` at ${endName(w, l.at === 1 ? 0 : 1)}` : ''}.{' '}
        {(l.why ?? []).map((r) => (
          <span key={r.text}>
            {r.text} {r.source && <span className="quiet">({r.source}) </span>}
          </span>
        ))}
      </p>
      <WireLive job={job} revision={view.revision} of={{ wire: l.wire }} />
      {l.terms && (
        <table className="table terms" data-testid="terms">
          <tbody>
            {l.terms.map((t, i) => (
              <tr key={i}>
                <td>{t.what}</td>
                <td className="mono right">{Math.round(t.mm)}</td>
              </tr>
            ))}
            <tr>
              <th scope="row">needs</th>
              <td className="mono right">
                <strong>{mm(l.need)}</strong>
              </td>
            </tr>
            <tr>
              <th scope="row">has{l.hadBy ? `, ${l.hadBy}` : ''}</th>
              <td className="mono right">{l.had ? mm(l.had) : 'not known'}</td>
            </tr>
          </tbody>
        </table>
      )}
      {l.spread !== undefined && l.spread > 0 && (
        <p className="quiet">
          Both together are known to ± {Math.round(l.spread)} mm.
          {chance(l.short) && (l.verdict === 'reaches' || l.verdict === 'trim')
            ? ` The chance that it cannot be plugged in at both ends is ${chance(l.short)}.`
            : ''}
          {l.waits ? ` Provisional until this is there: ${l.waits.join(', ')}.` : ''}
        </p>
      )}
      {l.marks && l.marks.length > 1 && (
        <p>
          Tape marks from {l.fromUnit ? view.unit : endName(w, 0)}:{' '}
          <span className="mono">{l.marks.map((m) => `${m.station} ${Math.round(m.at)}`).join(' · ')}</span>{' '}
          <Link to={`?part=map&wire=${encodeURIComponent(l.wire)}`}>on the map</Link>
        </p>
      )}
      {l.amps ? (
        <p>
          <span className="mono">{Number(l.amps.toPrecision(3))} A</span>{' '}
          <span className="quiet">{l.ampsBy}</span>
          {l.volts ? (
            <>
              ; loses <span className="mono">{l.volts.toFixed(2)} V</span> at {l.air} °C
            </>
          ) : (
            ''
          )}
          {l.size && w.size && l.size > w.size ? (
            <>
              ; should have <strong className="mono">{l.size} mm²</strong>
            </>
          ) : (
            ''
          )}
        </p>
      ) : null}
      {l.provision?.map((p, i) => (
        <p key={i}>
          Cut from{' '}
          {p.from ? (
            <>
              <strong className="mono">{p.from}</strong>
              {p.waits ? ', still in the harness' : ''}
            </>
          ) : (
            'new wire'
          )}
          : <span className="mono">{Math.round(p.length)} mm</span> of {colourName(p.colour)} {p.size} mm²,
          class {p.class}
          {p.kind ? `, ${p.kind}` : ''}.
          {p.coded && l.code ? ` Print ${l.code} at both ends and at each joint.` : ''}
        </p>
      ))}
      {joints.map((j) => (
        <p key={j.id}>
          Joint {j.path ? `${j.at} mm from ${j.from} along ${j.path}` : `in the tail of ${j.from}`}:{' '}
          {schoolWord[j.school]}. {j.trouble && <strong>{j.trouble}</strong>}
        </p>
      ))}
      <div>
        <h3>Measured</h3>
        <div className="fields">
          <span>
            length that it has <kbd>M</kbd>
          </span>
          <Quantity
            label={`measured length of ${l.wire}`}
            value={measured?.had ?? 0}
            empty="measure"
            onChange={(had) => onMeasured({ had })}
            testID="had"
          />
          <span>along its way</span>
          <Quantity
            label={`measured way of ${l.wire}`}
            value={measured?.need ?? 0}
            empty="with a string"
            onChange={(need) => onMeasured({ need })}
          />
        </div>
      </div>
      <Decisions job={job} view={view} line={l} wire={w} onError={onError} />
      <Left job={job} view={view} line={l} onError={onError} />
    </div>
  );
}

function Decisions({ job, view, line, wire, onError }: PartProps & { line: CutLine; wire: ReachWire }) {
  const span = useSpan(job);
  const was = view.wishes.find((x) => x.wire === line.wire);
  const now: Span = was ?? { wire: line.wire };
  const put = useRecords<Span>(view.revision, (wish, seen) => span.mutateAsync({ ...seen, wish }), onError);
  const decide = (change: Partial<Span>) => put(line.wire, now, (was) => ({ ...was, ...change }));
  return (
    <div className="stack tight">
      <h3>Decided about this wire</h3>
      <Select
        size="small"
        mode="multiple"
        aria-label="paths that it must not take"
        placeholder="must not take…"
        value={now.avoid ?? []}
        options={view.map.paths.map((p) => ({ value: p.id, label: p.id }))}
        onChange={(avoid: string[]) => decide({ avoid })}
      />
      <div className="fields">
        <span>carries</span>
        <Quantity
          label={`current of ${line.wire}`}
          value={now.amps ?? 0}
          unit="A"
          most={1000}
          empty={line.amps ? String(Number(line.amps.toPrecision(3))) : 'not known'}
          onChange={(amps) => decide({ amps })}
        />
        {wire.new && (
          <>
            <span>size at least</span>
            <Quantity
              label={`size of ${line.wire}`}
              value={now.size ?? 0}
              unit="mm²"
              most={240}
              empty={line.size ? String(line.size) : 'not known'}
              onChange={(size) => decide({ size })}
            />
          </>
        )}
        <span>lengthen at</span>
        <Select
          size="small"
          aria-label="the end at which it is lengthened"
          value={now.at ?? 0}
          options={[
            { value: 0, label: 'where it costs least' },
            { value: 1, label: endName(wire, 0) },
            { value: 2, label: endName(wire, 1) },
          ]}
          onChange={(at: number) => decide({ at })}
        />
        <span>joints</span>
        <Select
          size="small"
          aria-label="how its joints are made"
          value={now.school ?? ''}
          options={(['', 'solder', 'crimp', 'bare'] as const).map((s) => ({
            value: s,
            label: schoolWord[s],
          }))}
          onChange={(school: NonNullable<Span['school']>) => decide({ school })}
        />
      </div>
      <Checkbox checked={now.renew ?? false} onChange={(e) => decide({ renew: e.target.checked })}>
        that end gets a new terminal: one joint
      </Checkbox>
      <Checkbox checked={now.whole ?? false} onChange={(e) => decide({ whole: e.target.checked })}>
        replace it whole, no joint
      </Checkbox>
      {line.verdict === 'no end' && (
        <Select
          size="small"
          aria-label="where its other end goes"
          placeholder="its other end goes to…"
          value={now.far ?? null}
          options={view.map.stations.map((s) => ({ value: s.id, label: s.id }))}
          onChange={(far: string | null) => decide({ far: far ?? '' })}
        />
      )}
      {was?.who && (
        <span className="quiet">
          {was.who} {was.reason}
        </span>
      )}
    </div>
  );
}

/** What was cut off in the end: it makes the next allowance better. */
function Left({ job, view, line, onError }: PartProps & { line: CutLine }) {
  const leftover = useLeftover(job);
  const [text, setText] = useState('');
  const left = finiteOf(text);
  const logged = view.leftover.filter((x) => x.wire === line.wire);
  return (
    <div className="stack tight">
      <h3>Left over when it was done</h3>
      <div className="bar">
        <Input
          size="small"
          style={{ width: 118 }}
          aria-label={`what ${line.wire} left over`}
          value={text}
          suffix={<span className="quiet">mm</span>}
          onChange={(e) => setText(e.target.value)}
        />
        <Button
          size="small"
          disabled={left === undefined}
          onClick={() =>
            left !== undefined &&
            leftover.mutate(
              { seen: view.revision, wire: line.wire, left },
              { onError, onSuccess: () => setText('') },
            )
          }
        >
          Log it
        </Button>
      </div>
      {logged.length > 0 && (
        <span className="quiet">logged: {logged.map((x) => `${x.left} mm`).join(', ')}</span>
      )}
    </div>
  );
}
