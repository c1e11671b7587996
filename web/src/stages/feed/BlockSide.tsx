import { Button, Checkbox, Input, Select } from 'antd';
import { useState } from 'react';
import { useCircuit } from '../../api/feed';
import type {
  Block,
  BlockRelay,
  BlockSlot,
  Circuit,
  FeedGroup,
  FeedView,
  Protected,
} from '../../api/types.gen';
import { SeverityMark } from '../../frame/SeverityMark';
import { circuitsAt, fuseOf, lidOf, mainOf, ratings, type Chosen } from './block';
import { refName } from '../../harness/cavity';
import { amps } from '../../work/amps';

interface Props {
  job: string;
  view: FeedView;
  block: Block;
  sel: Chosen;
  onChange: (change: (b: Block) => Block) => void;
  onMove: (c: Circuit) => void;
  onError: (e: unknown) => void;
}

/** What is chosen in the block: what limits what, and what can be changed about it. */
export function BlockSide(p: Props) {
  const { block, sel } = p;
  switch (sel.kind) {
    case 'slot': {
      const slot = block.slots.find((s) => s.name === sel.name);
      return slot ? <SlotSide key={slot.name} {...p} slot={slot} /> : null;
    }
    case 'relay': {
      const relay = block.relays.find((r) => r.name === sel.name);
      return relay ? <RelaySide key={relay.name} {...p} relay={relay} /> : null;
    }
    case 'group': {
      const group = block.groups.find((g) => g.name === sel.name);
      return group ? <GroupSide key={group.name} {...p} group={group} /> : null;
    }
    case 'circuit':
      return <CircuitSide {...p} circuit={sel.circuit} />;
  }
}

const rows = (all: [string, string | undefined][]) => (
  <table className="table">
    <tbody>
      {all
        .filter(([, v]) => v)
        .map(([k, v]) => (
          <tr key={k}>
            <td className="quiet">{k}</td>
            <td className="mono">{v}</td>
          </tr>
        ))}
    </tbody>
  </table>
);

/** What limits what behind a fuse. */
const limits = (f: Protected | undefined): [string, string | undefined][] => [
  ['carries', f ? `${amps(f.load)}${f.in ? `, ${f.in}` : ''}` : undefined],
  ['fuse', f && f.rating > 0 ? `${f.rating} A${f.reckoned ? ', as reckoned' : ''}` : undefined],
  ['thinnest wire', f?.thin ? `${f.thin}, may ${amps(f.carries)}` : undefined],
  ['its loads want', f?.wants],
  ['why none fits', f?.why && f.best === 0 ? f.why : undefined],
];

function Said({ view, subjects }: { view: FeedView; subjects: string[] }) {
  return (
    <>
      {view.findings
        .filter((f) => !f.answer && subjects.includes(f.subject ?? ''))
        .map((f) => (
          <section key={`${f.code} ${f.subject}`} className="finding">
            <SeverityMark severity={f.severity} /> {f.text} <span className="quiet">{f.remedy}</span>
          </section>
        ))}
    </>
  );
}

/** A text that is kept when it is left or Enter is pressed. */
function Text({ label, value, onKeep }: { label: string; value: string; onKeep: (v: string) => void }) {
  const [text, set] = useState(value);
  const keep = () => text.trim() !== value && onKeep(text.trim());
  return (
    <label className="blockfield">
      <span className="quiet">{label}</span>
      <Input
        size="small"
        value={text}
        onChange={(e) => set(e.target.value)}
        onBlur={keep}
        onPressEnter={keep}
      />
    </label>
  );
}

const ratingOptions = [
  { value: 0, label: 'as reckoned' },
  ...ratings.map((r) => ({ value: r, label: `${r} A` })),
];

function SlotSide({ view, block, slot, onChange, onMove }: Props & { slot: BlockSlot }) {
  const f = fuseOf(view, block, slot.name);
  const circuits = circuitsAt(view, slot.name);
  const put = (next: Partial<BlockSlot>) =>
    onChange((b) => ({ ...b, slots: b.slots.map((s) => (s.name === slot.name ? { ...s, ...next } : s)) }));
  const used = circuits.length > 0 || block.relays.some((r) => r.from === `slot ${slot.name}`);
  return (
    <div className="stack">
      <section>
        <h2>
          slot {slot.name}: {lidOf(view, slot)}
        </h2>
        {rows(limits(f))}
      </section>
      <Said view={view} subjects={f ? [f.fuse, f.thin] : []} />
      <section className="stack tight">
        <label className="blockfield">
          <span className="quiet">fuse</span>
          <Select
            size="small"
            aria-label="rating of the fuse"
            virtual={false}
            value={slot.amps ?? 0}
            options={ratingOptions}
            onChange={(v) => put({ amps: v })}
          />
        </label>
        <Checkbox checked={slot.slow ?? false} onChange={(e) => put({ slow: e.target.checked })}>
          slow: motors and lamps behind it
        </Checkbox>
        <label className="blockfield">
          <span className="quiet">stands on</span>
          <Select
            size="small"
            aria-label="group of the slot"
            value={slot.group}
            options={block.groups.map((g) => ({ value: g.name, label: g.name }))}
            onChange={(group) => put({ group })}
          />
        </label>
        <Text label="lid says" value={slot.for ?? ''} onKeep={(v) => put({ for: v })} />
      </section>
      {circuits.map((c) => (
        <section key={refName(c.at)}>
          <strong className="mono">{refName(c.at)}</strong> {c.text}
          <div className="quiet">{c.amps ? `takes ${amps(c.amps)}` : 'nothing known flows there'}</div>
          <Button size="small" onClick={() => onMove(c)}>
            Move to another slot… <kbd>M</kbd>
          </Button>
        </section>
      ))}
      {!used && (
        <Button
          size="small"
          onClick={() => onChange((b) => ({ ...b, slots: b.slots.filter((s) => s.name !== slot.name) }))}
        >
          Leave this slot out
        </Button>
      )}
    </div>
  );
}

function RelaySide({ view, block, relay, onChange }: Props & { relay: BlockRelay }) {
  const put = (next: Partial<BlockRelay>) =>
    onChange((b) => ({ ...b, relays: b.relays.map((r) => (r.name === relay.name ? { ...r, ...next } : r)) }));
  const used =
    block.groups.some((g) => g.relay === relay.name) || circuitsAt(view, `${relay.name}.87`).length > 0;
  return (
    <div className="stack">
      <section>
        <h2>
          relay {relay.name}
          {relay.for ? `: ${relay.for}` : ''}
        </h2>
        <p className="quiet">
          Low side: 86 on a feed, 85 to the output that pulls it. High side: 86 to the output, 85 to a ground.
        </p>
      </section>
      <Said view={view} subjects={[`${block.id} ${relay.name}`]} />
      <section className="stack tight">
        <Text label="for" value={relay.for ?? ''} onKeep={(v) => put({ for: v })} />
        <label className="blockfield">
          <span className="quiet">30 stands on</span>
          <Select
            size="small"
            aria-label="what 30 stands on"
            value={relay.from}
            options={[
              ...block.groups.map((g) => ({ value: g.name, label: g.name })),
              ...block.slots.map((s) => ({ value: `slot ${s.name}`, label: `slot ${s.name}` })),
            ]}
            onChange={(from) => put({ from })}
          />
        </label>
        <Text label="86, coil fed from" value={relay.plus} onKeep={(v) => put({ plus: v })} />
        <Text label="85, coil led to" value={relay.minus} onKeep={(v) => put({ minus: v })} />
        <label className="blockfield">
          <span className="quiet">contact</span>
          <Select
            size="small"
            aria-label="rating of the contact"
            value={relay.amps ?? 0}
            options={[0, 20, 30, 40, 50, 70, 100].map((v) => ({
              value: v,
              label: v ? `${v} A` : '30 A, as usual',
            }))}
            onChange={(v) => put({ amps: v })}
          />
        </label>
        <label className="blockfield">
          <span className="quiet">its coil is suppressed by</span>
          <Select
            size="small"
            aria-label="suppression"
            value={relay.suppressed ?? ''}
            options={[
              { value: 'resistor', label: 'a resistor' },
              { value: 'diode', label: 'a diode: 86 is plus then' },
              { value: '', label: 'nothing' },
            ]}
            onChange={(v) => put({ suppressed: v })}
          />
        </label>
      </section>
      {!used && (
        <Button
          size="small"
          onClick={() => onChange((b) => ({ ...b, relays: b.relays.filter((r) => r.name !== relay.name) }))}
        >
          Leave this relay out
        </Button>
      )}
    </div>
  );
}

function GroupSide({ view, block, group, onChange }: Props & { group: FeedGroup }) {
  const main = mainOf(view, block, group.name);
  const put = (next: Partial<FeedGroup>) =>
    onChange((b) => ({ ...b, groups: b.groups.map((g) => (g.name === group.name ? { ...g, ...next } : g)) }));
  /** Another name, wherever the block has the old one. */
  const rename = (name: string) => {
    const now = (x: string) => (x === group.name ? name : x);
    onChange((b) => ({
      ...b,
      groups: b.groups.map((g) => ({ ...g, name: now(g.name) })),
      slots: b.slots.map((x) => ({ ...x, group: now(x.group) })),
      relays: b.relays.map((r) => ({ ...r, from: now(r.from), plus: now(r.plus), minus: now(r.minus) })),
    }));
  };
  return (
    <div className="stack">
      <section>
        <h2>{group.name}</h2>
        {rows(limits(main))}
      </section>
      <Said view={view} subjects={main ? [main.fuse, main.thin] : []} />
      {!block.slots.some((x) => x.group === group.name) &&
        !block.relays.some((x) => [x.from, x.plus, x.minus].includes(group.name)) &&
        block.groups.length > 1 && (
          <Button
            size="small"
            onClick={() => onChange((b) => ({ ...b, groups: b.groups.filter((g) => g.name !== group.name) }))}
          >
            Leave this group out
          </Button>
        )}
      <section className="stack tight">
        <Text label="name" value={group.name} onKeep={rename} />
        <label className="blockfield">
          <span className="quiet">through a relay</span>
          <Select
            size="small"
            aria-label="relay of the group"
            value={group.relay ?? ''}
            options={[
              { value: '', label: 'no: fed from outside' },
              ...block.relays.map((r) => ({ value: r.name, label: `87 of ${r.name}` })),
            ]}
            onChange={(relay) =>
              put(relay ? { relay, from: '', fused: false } : { relay, from: 'battery +' })
            }
          />
        </label>
        {!group.relay && (
          <>
            <Text
              label="fed from: a cavity, or a place"
              value={group.from ?? ''}
              onKeep={(from) => put({ from })}
            />
            <Checkbox checked={group.fused ?? false} onChange={(e) => put({ fused: e.target.checked })}>
              a fuse where its cable begins
            </Checkbox>
            {group.fused && (
              <label className="blockfield">
                <span className="quiet">of</span>
                <Select
                  size="small"
                  aria-label="rating of the main fuse"
                  virtual={false}
                  value={group.main ?? 0}
                  options={ratingOptions}
                  onChange={(v) => put({ main: v })}
                />
              </label>
            )}
            <Text label="stud, such as M8" value={group.stud ?? ''} onKeep={(stud) => put({ stud })} />
          </>
        )}
      </section>
    </div>
  );
}

/** A circuit that is not on the block: what feeds it, and what could. */
function CircuitSide({ job, view, block, circuit, onMove, onError }: Props & { circuit: Circuit }) {
  const lead = useCircuit(job);
  return (
    <div className="stack">
      <section>
        <h2>
          <span className="mono">{refName(circuit.at)}</span> {circuit.text}
        </h2>
        {rows([
          ['fed from', circuit.from ?? 'nothing yet'],
          ['takes', circuit.amps ? amps(circuit.amps) : undefined],
        ])}
      </section>
      <Button size="small" onClick={() => onMove(circuit)}>
        Onto a slot of {block.id}… <kbd>M</kbd>
      </Button>
      <label className="blockfield">
        <span className="quiet">or from a fuse of the vehicle</span>
        <Select
          size="small"
          aria-label="a fuse of the vehicle"
          showSearch
          value={view.holders.includes(circuit.from ?? '') ? circuit.from : undefined}
          options={view.holders.map((h) => ({ value: h, label: h }))}
          onChange={(fuse) =>
            lead.mutate({ seen: view.revision, side: circuit.side, at: circuit.at, fuse }, { onError })
          }
        />
      </label>
    </div>
  );
}
