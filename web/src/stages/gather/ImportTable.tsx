import { Button, Input, Select } from 'antd';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { explain } from '../../api/client';
import { preview, useImport, type TableKey } from '../../api/hooks';
import type { Options, TableMeta, TableView } from '../../api/types.gen';
import { FileButton, tables } from '../../frame/FileButton';
import { Brought } from './Brought';
import { PinoutRows } from './PinoutRows';
import { ReadingSide } from './ReadingSide';

interface Props {
  /** Leads to the other parts of Gather. */
  nav: ReactNode;
  job: string;
  side: TableKey;
  /** What parts of the job can come from. */
  origins: string[];
  seen: number;
  onDone: () => void;
  onCancel?: () => void;
}

const what = (key: TableKey) =>
  key === 'from'
    ? 'Bring the pinout of the harness whose terminals will be moved'
    : key === 'to'
      ? 'Bring the pinout of the cavities that the finished harness must fill'
      : 'Bring a further pinout: of a pigtail, a sub-harness, a plug that has a table of its own';

/** Brings a table: a file or pasted rows, read at once and shown before it is kept. */
export function ImportTable({ nav, job, side, origins, seen, onDone, onCancel }: Props) {
  const [brought, setBrought] = useState<{ file?: File; text?: string } | undefined>();
  const [view, setView] = useState<TableView | undefined>();
  const [meta, setMeta] = useState<TableMeta>({ name: '', trust: 'copied' });
  const [error, setError] = useState<string | undefined>();
  const [busy, setBusy] = useState(false);
  const keep = useImport(job, side);

  const form = (from: { file?: File; text?: string }, o: Options, m: TableMeta, sheet?: string) => {
    const f = new FormData();
    if (from.file) {
      f.set('file', from.file);
    }
    f.set('text', from.text ?? '');
    f.set('options', JSON.stringify(o));
    f.set('meta', JSON.stringify(m));
    f.set('sheet', sheet ?? '');
    f.set('seen', String(seen));
    return f;
  };
  const read = async (from: { file?: File; text?: string }, o: Options, sheet?: string) => {
    const name = meta.name || (from.file?.name.replace(/\.[^.]*$/, '') ?? 'pasted rows');
    setBusy(true);
    setError(undefined);
    try {
      setView(await preview(job, side, form(from, o, meta, sheet)));
      setBrought(from);
      setMeta({ ...meta, name });
    } catch (e) {
      setError(explain(e));
    } finally {
      setBusy(false);
    }
  };
  if (!view || !brought) {
    return (
      <main className="page narrow stack">
        {nav}
        <h1>{what(side)}</h1>
        <Bring onBring={(from) => void read(from, {})} busy={busy} />
        {error && (
          <div className="problem" role="alert">
            {error} Nothing was kept.
          </div>
        )}
        {onCancel && (
          <div>
            <Button onClick={onCancel}>
              {side === 'from' || side === 'to' ? 'Keep the one that is there' : 'Back'}
            </Button>
          </div>
        )}
      </main>
    );
  }
  const again = (o: Options) => void read(brought, o, view.sheet);
  const problem = error ?? view.problem ?? (keep.error ? explain(keep.error) : undefined);
  return (
    <main className="gatherpage">
      <div className="left">
        <div className="bar">
          <h1 className="grow">Is it read right?</h1>
          {view.sheets && view.sheets.length > 1 && (
            <Select
              aria-label="sheet"
              style={{ width: 160 }}
              value={view.sheet}
              onChange={(s: string) => void read(brought, view.options, s)}
              options={view.sheets.map((s) => ({ value: s, label: `sheet ${s}` }))}
            />
          )}
          <Button onClick={() => setView(undefined)}>Another table</Button>
          <Button
            type="primary"
            disabled={view.reading.rows.length === 0}
            loading={keep.isPending}
            onClick={() => keep.mutate(form(brought, view.options, meta, view.sheet), { onSuccess: onDone })}
          >
            Keep this pinout
          </Button>
        </div>
        {problem && (
          <div className="problem" role="alert">
            {problem}
          </div>
        )}
        <div style={{ maxHeight: 300, overflow: 'auto', flex: 'none' }}>
          <Brought view={view} onOptions={again} />
        </div>
        <PinoutRows rows={view.reading.rows} />
      </div>
      <aside className="side">
        <ReadingSide
          view={view}
          meta={meta}
          origins={origins}
          further={side !== 'from' && side !== 'to'}
          onMeta={setMeta}
          onOptions={again}
        />
      </aside>
    </main>
  );
}

function Bring({ onBring, busy }: { onBring: (b: { file?: File; text?: string }) => void; busy: boolean }) {
  const [over, setOver] = useState(false);
  const [text, setText] = useState('');
  return (
    <>
      <div
        className={`drop${over ? ' over' : ''}`}
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(e) => {
          e.preventDefault();
          setOver(false);
          const file = e.dataTransfer.files[0];
          if (file) {
            onBring({ file });
          }
        }}
      >
        <p>
          <FileButton
            type="primary"
            loading={busy}
            label="pinout file"
            accept={tables}
            onFile={(file) => onBring({ file })}
          >
            Choose a file
          </FileButton>{' '}
          or drop it here
        </p>
        <p className="quiet">
          CSV, TSV or XLSX. Any order of columns, under any sensible heading. It is shown before it is kept.
        </p>
      </div>
      <div className="field">
        <label htmlFor="paste">or paste rows from a spreadsheet</label>
        <Input.TextArea
          id="paste"
          rows={7}
          value={text}
          onChange={(e) => setText(e.target.value)}
          style={{ fontFamily: 'var(--mono)' }}
        />
      </div>
      <div>
        <Button disabled={!text.trim()} loading={busy} onClick={() => onBring({ text })}>
          Read the pasted rows
        </Button>
      </div>
      <section className="bringhelp" aria-label="what is understood, and what comes next">
        <div>
          <h2>What is understood</h2>
          <p>
            A row a cavity, under headings like{' '}
            <span className="mono">connector, cavity, circuit, colour,</span>{' '}
            <span className="mono">size, function, to</span>; in any order. What is not understood is shown
            row by row, and nothing is guessed unasked.
          </p>
          <pre className="mono quiet">{`connector  cavity  circuit  colour  function
A          1       7110     GN/WH   Injector 1, control
A          2       7014     BK      Power ground`}</pre>
        </div>
        <div>
          <h2>What comes next</h2>
          <ol>
            <li>
              The other side’s pinout, in <Link to="?side=to">To</Link>. With both, Match makes the crosswalk.
            </li>
            <li>
              A <Link to="?part=lists">list of wires</Link> with their other ends: with it Thin takes circuits
              out whole, and Reach knows what must span what.
            </li>
            <li>
              <Link to="?part=vehicles">The vehicles</Link> and what works{' '}
              <Link to="?part=before">before teardown</Link>: what a change brings is named then.
            </li>
          </ol>
        </div>
      </section>
    </>
  );
}
