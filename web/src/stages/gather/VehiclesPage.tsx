import { Button, Checkbox, Input, Select } from 'antd';
import { useState, type ReactNode } from 'react';
import { NumberField } from '../../frame/NumberField';
import { explain } from '../../api/client';
import { useEarlier, useIdentity, useItems } from '../../api/gather';
import { useJobs } from '../../api/hooks';
import { notice } from '../../frame/notice';
import { useDocument } from '../../outbox/useOutbox';
import type { GatherView, Identity, Origin } from '../../api/types.gen';
import { SeverityMark } from '../../frame/SeverityMark';

interface Props {
  job: string;
  view: GatherView;
}

/** What is known of the vehicles and the unit, and what the changes bring with them. */
export function VehiclesPage({ job, view }: Props) {
  const [draft, set] = useState<Identity>(view.identity);
  const keep = useIdentity(job);
  const items = useItems(job);
  const changed = JSON.stringify(draft) !== JSON.stringify(view.identity);
  const put = (part: Partial<Identity>) => set({ ...draft, ...part });
  const change = useDocument<Record<string, boolean>>(
    'items',
    view.revision,
    Object.fromEntries(view.open.filter((o) => o.done).map((o) => [o.id, true])),
    (all, seen) => items.mutateAsync({ ...seen, items: all }),
    (e) => notice.warning(explain(e)),
  );
  const setItem = (id: string, done: boolean) => change((all) => ({ ...all, [id]: done }));
  const options = (name: string) => (view.choices[name] ?? []).map((v) => ({ value: v, label: v }));
  return (
    <div className="factsbody twocolumns">
      <div className="stack">
        <h1>The vehicles and the unit</h1>
        <Sources sources={draft.sources ?? []} onChange={(sources) => put({ sources })} />
        <div className="fieldgrid">
          <Text
            id="hardware"
            label="unit, hardware number"
            value={draft.unit?.hardware}
            onChange={(hardware) => put({ unit: { ...draft.unit, hardware } })}
          />
          <Text
            id="service"
            label="unit, service number"
            value={draft.unit?.service}
            onChange={(service) => put({ unit: { ...draft.unit, service } })}
          />
          <div className="tickfield">
            <Checkbox
              id="read"
              checked={!!draft.unit?.read}
              onChange={(e) => put({ unit: { ...draft.unit, read: e.target.checked } })}
            >
              read on the part
            </Checkbox>
          </div>
          {(['throttle', 'gearbox', 'alternator'] as const).map((name) => (
            <ChangeFields
              key={name}
              name={name}
              value={draft[name]}
              options={options(name)}
              onChange={(c) => put({ [name]: c })}
            />
          ))}
          <div className="field">
            <label htmlFor="cylinders">cylinders</label>
            <NumberField
              id="cylinders"
              label="cylinders"
              width={90}
              min={1}
              max={16}
              value={draft.cylinders || undefined}
              onChange={(v) => put({ cylinders: v ?? 0 })}
            />
          </div>
          <Text
            id="firing"
            label="firing order"
            value={draft.firingOrder}
            onChange={(firingOrder) => put({ firingOrder })}
          />
          <Text
            id="cyl1"
            label="cylinder 1 is"
            value={draft.cylinder1}
            onChange={(cylinder1) => put({ cylinder1 })}
          />
          <Text id="bank1" label="bank 1 is" value={draft.bank1} onChange={(bank1) => put({ bank1 })} />
          <Choice
            id="immobiliser"
            label="immobiliser"
            value={draft.immobiliser}
            options={options('immobiliser')}
            onChange={(immobiliser) => put({ immobiliser })}
          />
          <Text
            id="programmer"
            label="who programs the unit"
            value={draft.programmer?.name}
            onChange={(name) => put({ programmer: { ...draft.programmer, name } })}
          />
          <div className="tickfield">
            <Checkbox
              id="confirmed"
              checked={!!draft.programmer?.confirmed}
              onChange={(e) => put({ programmer: { ...draft.programmer, confirmed: e.target.checked } })}
            >
              they confirmed that they can
            </Checkbox>
          </div>
        </div>
        <div className="bar">
          <Button
            type="primary"
            disabled={!changed}
            loading={keep.isPending}
            onClick={() =>
              keep.mutate(
                { seen: view.revision, subject: 'identity', identity: draft },
                { onError: (e) => notice.warning(explain(e)) },
              )
            }
          >
            Keep
          </Button>
          {changed && <span className="quiet">not kept yet</span>}
        </div>
        <Earlier job={job} revision={view.revision} />
      </div>
      <div className="stack">
        <h2>What the changes bring</h2>
        {view.open.length === 0 && (
          <p className="quiet">No change of throttle, gearbox or alternator is stated.</p>
        )}
        {[...new Set(view.open.map((i) => i.why))].map((why) => (
          <section key={why} className="openitems">
            <h3>{why.charAt(0).toUpperCase() + why.slice(1)}</h3>
            {view.open
              .filter((i) => i.why === why)
              .map((i) => (
                <Checkbox key={i.id} checked={i.done} onChange={(e) => setItem(i.id, e.target.checked)}>
                  <strong>{i.do}</strong> {i.text}
                </Checkbox>
              ))}
          </section>
        ))}
        <h2>Found in Gather</h2>
        {view.findings.length === 0 && <p className="quiet">Nothing wrong or doubtful.</p>}
        {view.findings.map((f) => (
          <div key={f.code + f.text}>
            <SeverityMark severity={f.severity} /> {f.text} <span className="quiet">{f.remedy}</span>
          </div>
        ))}
      </div>
    </div>
  );
}

function Labelled({ id, label, children }: { id: string; label: string; children: ReactNode }) {
  return (
    <div className="field">
      <label htmlFor={id}>{label}</label>
      {children}
    </div>
  );
}

interface TextProps {
  id: string;
  label: string;
  value: string | undefined;
  onChange: (v: string) => void;
}

function Text({ id, label, value, onChange }: TextProps) {
  return (
    <Labelled id={id} label={label}>
      <Input
        size="small"
        id={id}
        value={value ?? ''}
        maxLength={200}
        onChange={(e) => onChange(e.target.value)}
      />
    </Labelled>
  );
}

type Options = { value: string; label: string }[];

function Choice({ id, label, value, options, onChange }: TextProps & { options: Options }) {
  return (
    <Labelled id={id} label={label}>
      <Select
        size="small"
        id={id}
        allowClear
        style={{ width: '100%' }}
        value={value || null}
        options={options}
        onChange={(v: string | null | undefined) => onChange(v ?? '')}
      />
    </Labelled>
  );
}

interface ChangeProps {
  name: string;
  value: Identity['throttle'];
  options: Options;
  onChange: (c: { donor?: string; will?: string }) => void;
}

function ChangeFields({ name, value, options, onChange }: ChangeProps) {
  return (
    <>
      <Choice
        id={`${name}-donor`}
        label={`${name} of the donor`}
        value={value?.donor}
        options={options}
        onChange={(donor) => onChange({ ...value, donor })}
      />
      <Choice
        id={`${name}-will`}
        label={`${name} it will have`}
        value={value?.will}
        options={options}
        onChange={(will) => onChange({ ...value, will })}
      />
      <span />
    </>
  );
}

const sourceFields: [keyof Origin, string][] = [
  ['name', 'vehicle or part'],
  ['gives', 'what comes from it'],
  ['year', 'year'],
  ['variant', 'variant'],
  ['added', 'added by'],
];

function Sources({ sources, onChange }: { sources: Origin[]; onChange: (s: Origin[]) => void }) {
  const all = [...sources, { name: '' }];
  return (
    <table className="table" aria-label="sources">
      <colgroup>
        <col style={{ width: '30%' }} />
        <col style={{ width: '22%' }} />
        <col style={{ width: '10%' }} />
        <col style={{ width: '19%' }} />
        <col style={{ width: '19%' }} />
      </colgroup>
      <thead>
        <tr>
          {sourceFields.map(([key, word]) => (
            <th key={key}>{word}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {all.map((s, i) => (
          <tr key={i}>
            {sourceFields.map(([key, word]) => (
              <td key={key} style={{ padding: 2 }}>
                <Input
                  size="small"
                  aria-label={`${word}, source ${i + 1}`}
                  value={s[key] ?? ''}
                  onChange={(e) => {
                    const next = all.map((x, k) => (k === i ? { ...x, [key]: e.target.value } : x));
                    onChange(next.filter((x) => sourceFields.some(([k]) => x[k])));
                  }}
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Applies an earlier job's map: every decision that it brings is to be verified. */
function Earlier({ job, revision }: { job: string; revision: number }) {
  const jobs = useJobs();
  const [from, setFrom] = useState<string | undefined>();
  const apply = useEarlier(job);
  const others = (jobs.data?.jobs ?? []).filter((j) => j.id !== job);
  if (others.length === 0) {
    return null;
  }
  return (
    <section>
      <h2>An earlier job’s map</h2>
      <p className="quiet">
        Brings its decisions where both jobs say the same of a cavity, a wire or a device. Each starts as “to
        be verified” and counts for nothing until somebody here has taken it over.
      </p>
      <div className="bar">
        <Select
          aria-label="earlier job"
          style={{ width: 260 }}
          value={from ?? null}
          options={others.map((j) => ({ value: j.id, label: j.title }))}
          onChange={(v: string) => setFrom(v)}
        />
        <Button
          disabled={!from}
          loading={apply.isPending}
          onClick={() =>
            from &&
            apply.mutate(
              { seen: revision, job: from },
              {
                onSuccess: (done) =>
                  notice.info(`${done.count ?? 0} decisions brought, each to be verified.`),
                onError: (e) => notice.warning(explain(e)),
              },
            )
          }
        >
          Apply it
        </Button>
      </div>
    </section>
  );
}
