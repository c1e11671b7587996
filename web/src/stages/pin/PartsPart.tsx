import { Button, Select } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { useExchange, useHave } from '../../api/pin';
import { notice } from '../../frame/notice';
import { useDocument } from '../../outbox/useOutbox';
import type { PinView, Ref } from '../../api/types.gen';
import { refKey, refName } from '../../harness/cavity';

/** What must be there, which cavities are spare, which joints the moves make, and which outputs are exchanged. */
export function PartsPart({ job, view }: { job: string; view: PinView }) {
  const warn = (e: unknown) => notice.warning(explain(e));
  return (
    <div className="page partspart">
      <Orders job={job} view={view} onError={warn} />
      <div className="stack">
        <Adaptations view={view} />
        <Joints view={view} />
        <Exchanges job={job} view={view} onError={warn} />
        <Spares view={view} />
      </div>
    </div>
  );
}

interface Props {
  job: string;
  view: PinView;
  onError: (e: unknown) => void;
}

function Orders({ job, view, onError }: Props) {
  const have = useHave(job);
  const shown = Object.fromEntries(view.orders.map((o) => [o.name, o.have ?? false]));
  const change = useDocument(
    'parts',
    view.revision,
    shown,
    (doc, seen) => have.mutateAsync({ have: doc, ...seen }),
    onError,
  );
  return (
    <section className="sheet pad">
      <h2>To have before the first terminal is pulled</h2>
      {view.orders.length === 0 ? (
        <p className="quiet">
          Nothing is known to be needed. Say in Faces what terminals the plugs take, and what to order
          follows.
        </p>
      ) : (
        <table className="table" data-testid="orders">
          <thead>
            <tr>
              <th scope="col">there</th>
              <th scope="col">need</th>
              <th scope="col">spare</th>
              <th scope="col">what</th>
              <th scope="col">for</th>
            </tr>
          </thead>
          <tbody>
            {view.orders.map((o) => (
              <tr key={o.kind + o.name}>
                <td>
                  <input
                    type="checkbox"
                    checked={o.have ?? false}
                    aria-label={`${o.name} is there`}
                    onChange={(e) => change((doc) => ({ ...doc, [o.name]: e.target.checked }))}
                  />
                </td>
                <td className="mono">{o.need}</td>
                <td className="mono">{o.spare || ''}</td>
                <td>
                  {o.name}
                  {o.stops && !o.have && <div className="quiet">without it the work stops</div>}
                </td>
                <td className="quiet mono">
                  {o.for.slice(0, 6).map(refName).join(' ')}
                  {o.for.length > 6 && ' …'}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="quiet">
        Spare: a tenth of what is small, at least 2. Ranges of wire are common practice; the data sheet of the
        terminal comes first.
      </p>
    </section>
  );
}

function Adaptations({ view }: { view: PinView }) {
  return view.adaptations.map((a) => (
    <section key={a.connector} className="sheet pad" data-testid="adaptation">
      <h2>
        Plug {a.connector}: {a.pattern}
      </h2>
      <p>{a.text}</p>
      <p>
        <strong>{a.warn}</strong>
      </p>
      <p className="quiet">{a.pigtail}</p>
    </section>
  ));
}

function Joints({ view }: { view: PinView }) {
  if (view.joints.length === 0) {
    return null;
  }
  return (
    <section className="sheet pad">
      <h2>Joints</h2>
      {view.joints.map((j) => (
        <p key={j.name}>
          <strong>{j.name}</strong>: {j.ends.map((e) => `${e.name}, ${e.how}`).join('; ')}.{' '}
          <span className="quiet">{j.why}</span>
        </p>
      ))}
    </section>
  );
}

function Exchanges({ job, view, onError }: Props) {
  const exchange = useExchange(job);
  const [a, setA] = useState<string | undefined>();
  const [b, setB] = useState<string | undefined>();
  const find = (key: string | undefined) => view.outputs.find((o) => refKey(o.at) === key);
  const first = find(a);
  const option = (o: PinView['outputs'][number]) => ({
    value: refKey(o.at),
    label: `${refName(o.at)} · ${o.function} · ${o.kind}`,
  });
  const send = (x: Ref, y?: Ref) =>
    exchange.mutate(
      { seen: view.revision, a: x, ...(y ? { b: y } : {}) },
      {
        onError,
        onSuccess: () => {
          setA(undefined);
          setB(undefined);
        },
      },
    );
  if (view.outputs.length < 2) {
    return null;
  }
  const second = find(b);
  const done = view.outputs.filter((o) => o.with && refName(o.at) < refName(o.with));
  return (
    <section className="sheet pad">
      <h2>Outputs exchanged</h2>
      <p className="quiet">
        Outputs of a programmable unit can change places within one kind. The map and the settings change
        together.
      </p>
      {done.map((o) => (
        <div key={refKey(o.at)} className="bar">
          <span className="mono">
            {refName(o.at)} ↔ {refName(o.with)}
          </span>
          <Button size="small" onClick={() => send(o.at)}>
            Take it back
          </Button>
        </div>
      ))}
      {view.outputs
        .filter((o) => o.verify)
        .map((o) => (
          <div key={refKey(o.at)} className="bar">
            <span className="mono">
              {refName(o.at)} ↔ {refName(o.earlier)}
            </span>
            <span className="quiet">in “{o.verify}”</span>
            <Button size="small" onClick={() => send(o.at, o.earlier)}>
              Take it over
            </Button>
            <Button size="small" onClick={() => send(o.at)}>
              Not so here
            </Button>
          </div>
        ))}
      <div className="bar">
        <Select
          style={{ width: 250 }}
          aria-label="one output"
          placeholder="one output"
          showSearch={{ optionFilterProp: 'label' }}
          value={a}
          onChange={(key) => {
            setA(key);
            setB(undefined);
          }}
          options={view.outputs.map(option)}
        />
        <Select
          style={{ width: 250 }}
          aria-label="the other output"
          placeholder={first ? `another ${first.kind} output` : 'choose the one first'}
          disabled={!first}
          showSearch={{ optionFilterProp: 'label' }}
          value={b}
          onChange={setB}
          options={view.outputs.filter((o) => o.kind === first?.kind && refKey(o.at) !== a).map(option)}
        />
        <Button disabled={!first || !second} onClick={() => first && second && send(first.at, second.at)}>
          Exchange
        </Button>
      </div>
      {view.settings.length > 0 && (
        <>
          <h3>To be changed in the unit’s settings</h3>
          <ul data-testid="settings">
            {view.settings.map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

function Spares({ view }: { view: PinView }) {
  const [blade, setBlade] = useState<number | undefined>();
  const blades = [...new Set(view.spares.map((s) => s.seat.blade ?? 0))].sort((x, y) => x - y);
  const shown = view.spares.filter((s) => blade === undefined || (s.seat.blade ?? 0) === blade);
  return (
    <section className="sheet pad">
      <div className="bar">
        <h2 className="grow">Spare cavities, {shown.length}</h2>
        <Select
          style={{ width: 190 }}
          aria-label="width of the contact"
          value={blade ?? -1}
          onChange={(v: number) => setBlade(v < 0 ? undefined : v)}
          options={[
            { value: -1, label: 'any terminal' },
            ...blades.map((x) => ({ value: x, label: x ? `${x} mm` : 'not known' })),
          ]}
        />
      </div>
      <div className="sparelist" data-testid="spares">
        {shown.map((s) => (
          <span key={refKey(s.at)} title={s.reason}>
            <strong className="mono">{refName(s.at)}</strong>
            {s.plugged ? ' plug' : ''}
            {s.reason ? ` · ${s.reason}` : ''}
          </span>
        ))}
      </div>
    </section>
  );
}
