import { Button, Select } from 'antd';
import { explain } from '../../api/client';
import { useWhatIf, type Fault } from '../../api/feed';
import type { Feeder, FeedView, Outcome } from '../../api/types.gen';
import { SeverityMark } from '../../frame/SeverityMark';
import { useKey } from '../../keys/useKey';
import { amps } from '../../work/amps';
import { liveWord } from '../../work/live';
import { kindWord } from './tree';

interface Props {
  job: string;
  view: FeedView;
  tree: Feeder[];
  position: string;
  on: string[];
  feeder: Feeder | undefined;
  fault: Fault | undefined;
  onAsk: (f: Fault | undefined) => void;
}

/** What may be asked of a thing: the key, the words, the fault. */
function questions(f: Feeder, body: string): [string, string, Fault][] {
  if (f.kind === 'wire' || f.kind === 'cable') {
    return [
      ['D', 'it were broken', { do: 'open', element: f.id }],
      ['T', 'it were chafed through to the body', { do: 'short', element: f.id, b: body }],
    ];
  }
  const touch: [string, string, Fault] = f.behind
    ? ['T', 'the wire behind it touches ground', { do: 'short', a: f.behind, b: 'battery −' }]
    : ['T', 'its feed touches ground here', { do: 'short', a: f.at, b: 'battery −' }];
  switch (f.kind) {
    case 'fuse':
      return [['D', 'it were pulled', { do: 'open', element: f.id }], touch];
    case 'relay':
      return [
        ['D', 'it were dead', { do: 'dead', element: f.name }],
        ['S', 'it stuck', { do: 'stuck', element: f.name }],
        touch,
      ];
    case 'source':
      return [
        ['D', 'its lead came off', { do: 'open', element: f.id }],
        ['S', 'it had 10.5 V', { do: 'weak', volts: '10.5' }],
      ];
    default:
      return [
        ['D', f.kind === 'switch' ? 'it never closed' : 'it were open', { do: 'open', element: f.id }],
        touch,
      ];
  }
}

/** Why: what a thing is fed by and carries, what is wrong with it, and what if. */
export function FeedReasons({ job, view, tree, position, on, feeder, fault, onAsk }: Props) {
  const outcome = useWhatIf(job, view.revision, position, on, fault);
  const asks = feeder ? questions(feeder, view.body) : [];
  useKey('d,s,t', (e) => {
    const q = asks.find(([k]) => k.toLowerCase() === e.key.toLowerCase());
    if (q) {
      onAsk(q[2]);
    }
  });
  /** Asks of a wire that was chosen in a list, and gives the keys back to the page. */
  const askOf = (f: Fault) => {
    if (document.activeElement instanceof HTMLElement) {
      document.activeElement.blur();
    }
    onAsk(f);
  };
  if (!feeder) {
    return (
      <p className="quiet">Choose a line, or something in the tree; Enter opens there what is folded.</p>
    );
  }
  const parent = tree[feeder.parent];
  const found = view.findings.filter(
    (f) => !f.answer && [feeder.name, feeder.device, feeder.thin].includes(f.subject),
  );
  const rows: [string, string][] = [
    ['fed by', parent ? `${kindWord[parent.kind]} ${parent.name}` : ''],
    ['at', feeder.at],
    ['is', liveWord[feeder.live]],
    ['volts', feeder.live === 'floating' ? '' : `${feeder.volts.toFixed(2)} V`],
    ['has across it', feeder.has ? `${feeder.has.toFixed(2)} V` : ''],
    ['carries', amps(feeder.amps)],
    ['rating', feeder.rating ? `${feeder.rating} A` : ''],
    [
      'least to spare',
      feeder.thin ? `${feeder.thin}: ${amps(feeder.band)} of ${amps(feeder.carries ?? 0)}` : '',
    ],
    ['lost on the way', feeder.drop > 0.005 ? `${feeder.drop.toFixed(2)} V` : ''],
  ];
  return (
    <div className="stack">
      <section>
        <h2>{feeder.name}</h2>
        <div className="quiet">{kindWord[feeder.kind]}</div>
        <table className="table">
          <tbody>
            {rows
              .filter(([, v]) => v)
              .map(([k, v]) => (
                <tr key={k}>
                  <td className="quiet">{k}</td>
                  <td className="mono">{v}</td>
                </tr>
              ))}
          </tbody>
        </table>
      </section>
      {found.map((f) => (
        <section key={`${f.code} ${f.subject}`} className="finding">
          <SeverityMark severity={f.severity} /> {f.text} <span className="quiet">{f.remedy}</span>
        </section>
      ))}
      <section>
        <h2>What if</h2>
        {asks.map(([key, words, f]) => (
          <Button key={key} block size="small" className="ask" onClick={() => onAsk(f)}>
            {words} <kbd>{key}</kbd>
          </Button>
        ))}
        <Select
          size="small"
          style={{ width: '100%', marginTop: 4 }}
          aria-label="a wire that is broken"
          placeholder="a wire were broken…"
          showSearch
          value={fault?.do === 'open' && view.wires.includes(fault.element ?? '') ? fault.element : undefined}
          options={view.wires.map((w) => ({ value: w, label: w }))}
          onChange={(w) => askOf({ do: 'open', element: w })}
        />
        <Select
          size="small"
          style={{ width: '100%', marginTop: 4 }}
          aria-label="a wire that is chafed through"
          placeholder="a wire were chafed through to the body…"
          showSearch
          value={
            fault?.do === 'short' && view.wires.includes(fault.element ?? '') ? fault.element : undefined
          }
          options={view.wires.map((w) => ({ value: w, label: w }))}
          onChange={(w) => askOf({ do: 'short', element: w, b: view.body })}
        />
      </section>
      {outcome.isError && <div className="problem">{explain(outcome.error)}</div>}
      {outcome.data && <Answer o={outcome.data} position={position} />}
      {view.assumed.length > 0 && !outcome.data && (
        <section>
          <h2>Assumed</h2>
          {view.assumed.map((a) => (
            <div key={a} className="quiet remark1">
              {a}
            </div>
          ))}
          {view.unknown.length > 0 && (
            <div className="quiet remark1">
              nothing is known of what is inside of {view.unknown.join(', ')}
            </div>
          )}
        </section>
      )}
    </div>
  );
}

const seconds = (s: number) => (s < 0.1 ? `${(s * 1000).toPrecision(2)} ms` : `${s.toPrecision(2)} s`);

function Answer({ o, position }: { o: Outcome; position: string }) {
  const few = (all: string[]) =>
    all.length > 8 ? `${all.slice(0, 8).join(', ')} and ${all.length - 8} more` : all.join(', ');
  return (
    <section className="answer" data-testid="answer" aria-live="polite">
      <h2>
        {o.fault}, in {position}
      </h2>
      {o.says.map((s) => (
        <p key={s}>
          <strong>{s}</strong>
        </p>
      ))}
      {o.opens.map((f) => (
        <p key={f.fuse}>
          Fuse <span className="mono">{f.fuse}</span> opens after{' '}
          {f.slow
            ? `${seconds(f.least)} at the least: it is slow, and its time is not known`
            : `${seconds(f.least)} to ${f.most > 0 ? seconds(f.most) : 'hours'}`}
          , at {amps(f.amps)}.
        </p>
      ))}
      {o.heats.map((h) => (
        <p key={h.wire}>
          ▲ <span className="mono">{h.wire}</span> carries {amps(h.amps)} of {amps(h.carries)}:{' '}
          {h.outlast
            ? 'the fuse opens before it burns'
            : `${h.burns > 0 ? `its insulation is spent in ${seconds(h.burns)}` : 'it heats'}${o.opens.length > 0 ? ', and a fuse may open later than that' : ', and no fuse ends it'}`}
          .
        </p>
      ))}
      {o.stops.length > 0 && <p>Stops: {few(o.stops)}.</p>}
      {o.starts.length > 0 && <p>Starts: {few(o.starts)}.</p>}
      {o.changed.length > 0 && <p>Otherwise: {few(o.changed)}.</p>}
      {!!o.already && <p className="quiet">{o.already} wires carry more than they may without it too.</p>}
      {o.works.length > 0 && <p className="quiet">Goes on: {few(o.works)}.</p>}
    </section>
  );
}
