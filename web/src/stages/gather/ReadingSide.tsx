import { Button, Input, Select } from 'antd';
import { NumberField } from '../../frame/NumberField';
import type { Options, TableMeta, TableView } from '../../api/types.gen';
import { corrected } from './corrected';
import { besideWord, habitWord, options, trustWord, type Beside } from './words';

interface Props {
  view: TableView;
  meta: TableMeta;
  /** What parts of the job can come from, as Vehicles lists it. */
  origins: string[];
  /** A further pinout, that of neither side. */
  further: boolean;
  onMeta: (m: TableMeta) => void;
  onOptions: (o: Options) => void;
}

type Habit = TableView['reading']['habit']['habit'];

/** What Draxel made of the table, with everything that a person may have to put right. */
export function ReadingSide({ view, meta, origins, further, onMeta, onOptions }: Props) {
  const { reading, options: said } = view;
  const habit = reading.habit;
  const taken = reading.rows.length;
  return (
    <div className="stack">
      <section data-testid="reading">
        <h2>
          {taken} {taken === 1 ? 'row' : 'rows'} taken, {reading.rejected.length} not
        </h2>
        <div className="quiet">
          {reading.headerLine > 0
            ? `heading on line ${reading.headerLine}`
            : 'no heading line: the columns are told by what stands in them'}
          {reading.preface.length > 0 &&
            `, ${reading.preface.length} ${reading.preface.length === 1 ? 'line' : 'lines'} above it`}
          {view.encoding && ` · ${view.encoding}`}
          {reading.rows.some((r) => r.empty) &&
            ` · ${reading.rows.filter((r) => r.empty).length} empty cavities`}
        </div>
        {view.notes?.map((n) => (
          <div key={n} className="problem" style={{ marginTop: 6 }}>
            {n}
          </div>
        ))}
      </section>
      <Meta meta={meta} origins={origins} further={further} onMeta={onMeta} />
      {reading.tables > 1 && (
        <section className="field">
          <label htmlFor="beside">Side by side stand {reading.tables} tables</label>
          <Select
            id="beside"
            style={{ width: '100%' }}
            value={said.beside ?? ''}
            onChange={(beside: Beside) => onOptions({ ...said, beside })}
            options={options(besideWord)}
          />
        </section>
      )}
      <section className="field">
        <label htmlFor="habit">Colours are written as</label>
        <Select
          id="habit"
          style={{ width: '100%' }}
          value={habit.habit}
          onChange={(h: Habit) => onOptions({ ...said, habit: h })}
          options={options(habitWord).filter((o) => o.value !== '' || habit.habit === '')}
        />
        {!habit.sure && habit.clashes.length > 0 && (
          <div className="problem" style={{ marginTop: 6 }}>
            {habit.clashes.join(', ')} mean something else as {habitWord[habit.readings[1]?.habit ?? '']}. Say
            which it is.
          </div>
        )}
      </section>
      <Layouts view={view} onOptions={onOptions} />
      <Remarks
        title="Rows not taken"
        remarks={reading.rejected}
        onCavity={(line, text) => onOptions(corrected(said, [{ line, column: 'cavity', text }]))}
      />
      <Remarks
        title="Struck out"
        remarks={reading.struck}
        onBack={(line) => onOptions({ ...said, gone: (said.gone ?? []).filter((l) => l !== line) })}
      />
      <Remarks title="Taken, with something unread" remarks={reading.warnings} />
    </div>
  );
}

type MetaProps = Pick<Props, 'meta' | 'origins' | 'further' | 'onMeta'>;

function Meta({ meta, origins, further, onMeta }: MetaProps) {
  return (
    <section className="stack" style={{ gap: 8 }}>
      <div className="field">
        <label htmlFor="name">Name of the pinout</label>
        <Draft id="name" value={meta.name} onKeep={(name) => onMeta({ ...meta, name })} />
      </div>
      <div className="field">
        <label htmlFor="source">Where the table comes from</label>
        <Draft id="source" value={meta.source ?? ''} onKeep={(source) => onMeta({ ...meta, source })} />
      </div>
      <div className="bar" style={{ flexWrap: 'nowrap' }}>
        <div className="field grow">
          <label htmlFor="trust">Trust</label>
          <Select
            id="trust"
            style={{ width: '100%' }}
            value={meta.trust}
            onChange={(trust: TableMeta['trust']) => onMeta({ ...meta, trust })}
            options={options(trustWord)}
          />
        </div>
        <div className="field" style={{ width: 130 }}>
          <label htmlFor="date">Date</label>
          <Draft
            id="date"
            value={meta.date ?? ''}
            hint="2026-11-24"
            onKeep={(date) => onMeta({ ...meta, date })}
          />
        </div>
      </div>
      {(origins.length > 0 || meta.origin) && (
        <div className="field">
          <label htmlFor="origin">Its plugs come from</label>
          <Select
            id="origin"
            style={{ width: '100%' }}
            value={meta.origin ?? ''}
            onChange={(origin: string) => onMeta({ ...meta, origin })}
            options={[
              { value: '', label: 'not said' },
              ...[...new Set([...origins, ...(meta.origin ? [meta.origin] : [])])].map((o) => ({
                value: o,
                label: o,
              })),
            ]}
          />
        </div>
      )}
      {further && (
        <div className="field">
          <label htmlFor="with">It is part of</label>
          <Select
            id="with"
            style={{ width: '100%' }}
            value={meta.with === 'to' ? 'to' : 'from'}
            onChange={(side: 'from' | 'to') => onMeta({ ...meta, with: side })}
            options={[
              { value: 'from', label: 'the harness that is worked on' },
              { value: 'to', label: 'the other side' },
            ]}
          />
        </div>
      )}
    </section>
  );
}

/** A field that keeps what was typed when it is left, not at every letter. */
function Draft({
  id,
  value,
  hint,
  onKeep,
}: {
  id: string;
  value: string;
  hint?: string;
  onKeep: (v: string) => void;
}) {
  return (
    <Input
      key={value}
      id={id}
      defaultValue={value}
      placeholder={hint}
      onBlur={(e) => e.target.value !== value && onKeep(e.target.value)}
      onPressEnter={(e) => e.currentTarget.blur()}
    />
  );
}

/** Rows and ways of each housing: guessed until somebody has looked at it. */
function Layouts({ view, onOptions }: { view: TableView; onOptions: (o: Options) => void }) {
  const said = view.options;
  const change = (id: string, part: object) =>
    onOptions({ ...said, layouts: { ...said.layouts, [id]: { ...said.layouts?.[id], ...part } } });
  return (
    <section>
      <h2>Connectors</h2>
      <table className="table layouts">
        <thead>
          <tr>
            <th>name</th>
            <th>ways</th>
            <th>rows</th>
            <th>cavity 1</th>
          </tr>
        </thead>
        <tbody>
          {view.reading.connectors.map((c) => (
            <tr key={c.id}>
              <td className="mono">{c.name}</td>
              <td>
                <NumberField
                  label={`ways of ${c.name}`}
                  width={58}
                  min={1}
                  max={300}
                  value={c.cavities.length}
                  onChange={(ways) => ways && change(c.id, { ways })}
                  whenLeft
                />
              </td>
              <td>
                <NumberField
                  label={`rows of ${c.name}`}
                  width={50}
                  min={1}
                  max={20}
                  value={c.rows}
                  onChange={(rows) => rows && change(c.id, { rows })}
                  whenLeft
                />
              </td>
              <td>
                <Select
                  size="small"
                  style={{ width: '100%', minWidth: 84 }}
                  aria-label={`first cavity of ${c.name}`}
                  value={c.first}
                  onChange={(first) => change(c.id, { first })}
                  options={[
                    { value: 'top-left', label: 'top left' },
                    { value: 'top-right', label: 'top right' },
                    { value: 'bottom-left', label: 'bottom left' },
                    { value: 'bottom-right', label: 'bottom right' },
                  ]}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="quiet">
        As seen from the wire side, lock up. Compare with the numbers moulded in the housing.
      </div>
    </section>
  );
}

/** A row that was not taken for its cavity can be taken when that is put right: two of them are written 9 & 10. */
const forCavity = ['no-cavity', 'bad-cavity', 'two-cavities', 'duplicate-cavity'];

interface RemarksProps {
  title: string;
  remarks: TableView['reading']['rejected'];
  onCavity?: (line: number, text: string) => void;
  onBack?: (line: number) => void;
}

function Remarks({ title, remarks, onCavity, onBack }: RemarksProps) {
  if (remarks.length === 0) {
    return null;
  }
  return (
    <section data-testid={title}>
      <h2>
        {title}: {remarks.length}
      </h2>
      {remarks.slice(0, 200).map((r) => (
        <div key={`${r.line} ${r.code}`} className="remark">
          <span className="mono quiet">{r.line}</span>
          <span>
            {r.text}
            {r.cells && <div className="quiet">{r.cells.filter(Boolean).join(' · ')}</div>}
            {onBack && (
              <Button size="small" onClick={() => onBack(r.line)}>
                Bring it back
              </Button>
            )}
            {onCavity && forCavity.includes(r.code) && (
              <Input
                size="small"
                style={{ width: 150 }}
                aria-label={`cavity of line ${r.line}`}
                placeholder="cavity, or 9 & 10"
                onPressEnter={(e) => onCavity(r.line, e.currentTarget.value)}
              />
            )}
          </span>
        </div>
      ))}
    </section>
  );
}
