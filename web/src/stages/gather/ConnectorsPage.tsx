import { Button, Checkbox, Input, Select } from 'antd';
import { useState } from 'react';
import { NumberField } from '../../frame/NumberField';
import { explain } from '../../api/client';
import { useDrop, useLooked, usePhoto } from '../../api/gather';
import { fileAddress } from '../../api/hooks';
import { notice } from '../../frame/notice';
import { useDocument } from '../../outbox/useOutbox';
import type { ConnectorLine, GatherView, Looked } from '../../api/types.gen';
import { FileButton } from '../../frame/FileButton';
import { VirtualRows } from '../../frame/VirtualRows';
import { useCursor } from '../../keys/useCursor';

type Part = 'latch' | 'lock' | 'seals' | 'corrosion' | 'insulation';
const partWord: [Part, string][] = [
  ['latch', 'latch'],
  ['lock', 'secondary lock'],
  ['seals', 'seals'],
  ['corrosion', 'terminals (corrosion)'],
  ['insulation', 'insulation'],
];

/** Label, photograph, count and condition of every connector, before it comes off. */
export function ConnectorsPage({ job, view }: { job: string; view: GatherView }) {
  const [at, setAt] = useState(0);
  const c = view.connectors[at];
  useCursor(at, view.connectors.length, setAt);
  const plugs = view.connectors.filter((x) => !x.id.startsWith('branch '));
  const labelled = plugs.filter((x) => x.looked.labelled).length;
  return (
    <div className="factsbody listside">
      <div className="stack fill">
        <div className="bar">
          <h1 className="grow">Connectors</h1>
          <span className="quiet">
            {labelled} of {plugs.length} labelled
          </span>
          <Button size="small" href={fileAddress(job, 'gather/labels.pdf')}>
            Labels to print (PDF)
          </Button>
        </div>
        <VirtualRows
          rows={view.connectors}
          keyOf={(x) => x.id}
          estimate={32}
          label="connectors"
          className="wirelist"
          head={head}
          at={at}
          draw={(x, i) => <Row line={x} on={i === at} index={i} onGo={() => setAt(i)} />}
        />
      </div>
      {c && <One key={c.id} job={job} view={view} line={c} />}
    </div>
  );
}

const head = (
  <div className="connectorrow headrow" role="row" aria-rowindex={1}>
    {['connector', 'device', 'wires', 'label', 'photographs', 'counted', 'to replace'].map((h) => (
      <span key={h} role="columnheader">
        {h}
      </span>
    ))}
  </div>
);

function Row({
  line: c,
  on,
  index,
  onGo,
}: {
  line: ConnectorLine;
  on: boolean;
  index: number;
  onGo: () => void;
}) {
  const counted = c.looked.counted ?? 0;
  return (
    <div
      className={`connectorrow${on ? ' selected' : ''}`}
      role="row"
      aria-rowindex={index + 2}
      aria-selected={on}
      onClick={onGo}
    >
      <strong role="gridcell" className="mono">
        {c.id}
      </strong>
      <span role="gridcell">
        {c.device} {c.locked && <span className="quiet">not ours</span>}
      </span>
      <span role="gridcell" className="mono">
        {c.wires}
      </span>
      <span role="gridcell">{c.looked.labelled ? '✓' : <span className="quiet">none</span>}</span>
      <span role="gridcell" className="mono">
        {c.photos || <span className="quiet">none</span>}
      </span>
      <span role="gridcell" className="mono">
        {counted > 0 ? (
          `${counted}${counted !== c.wires ? ' ≠' : ' ✓'}`
        ) : (
          <span className="quiet">not yet</span>
        )}
      </span>
      <span role="gridcell">{c.replace?.join(', ')}</span>
    </div>
  );
}

/** One connector: what is noted at it, and its photographs. */
function One({ job, view, line }: { job: string; view: GatherView; line: ConnectorLine }) {
  const keep = useLooked(job);
  const [note, setNote] = useState(line.looked.note ?? '');
  const change = useDocument<Looked>(
    line.id,
    view.revision,
    line.looked,
    (looked, seen) => keep.mutateAsync({ ...seen, connector: line.id, looked }),
    (e) => notice.warning(explain(e)),
  );
  const put = (part: Partial<Looked>) => change((looked) => ({ ...looked, ...part }));
  return (
    <aside className="side stack" aria-label={`connector ${line.id}`}>
      <h2>
        <span className="mono">{line.id}</span> {line.device}
      </h2>
      <Checkbox checked={!!line.looked.labelled} onChange={(e) => put({ labelled: e.target.checked })}>
        a label is on it
      </Checkbox>
      <div className="bar">
        wires counted at the plug
        <NumberField
          label="wires counted at the plug"
          width={70}
          min={0}
          max={1000}
          value={line.looked.counted ?? 0}
          onChange={(counted) => put({ counted: counted ?? 0 })}
          whenLeft
        />
        <span className="quiet">{line.wires} known</span>
      </div>
      {partWord.map(([part, word]) => (
        <label key={part} className="bar" style={{ justifyContent: 'space-between' }}>
          {word}
          <Select<NonNullable<Looked['latch']>>
            size="small"
            style={{ width: 120 }}
            aria-label={word}
            value={line.looked[part] ?? ''}
            onChange={(v) => put({ [part]: v })}
            options={[
              { value: '', label: 'not looked' },
              { value: 'good', label: 'good' },
              { value: 'worn', label: 'worn' },
              { value: 'broken', label: 'broken' },
            ]}
          />
        </label>
      ))}
      <Input.TextArea
        rows={2}
        value={note}
        aria-label="note"
        placeholder="a note"
        onChange={(e) => setNote(e.target.value)}
        onBlur={() => note !== (line.looked.note ?? '') && put({ note })}
      />
      <Photos job={job} view={view} connector={line.id} />
    </aside>
  );
}

function Photos({ job, view, connector }: { job: string; view: GatherView; connector: string }) {
  const add = usePhoto(job);
  const drop = useDrop(job, 'photos');
  const mine = view.photos.filter((p) => p.connector === connector);
  return (
    <section className="stack" style={{ gap: 8 }}>
      <div className="bar">
        <h3 className="grow">Photographs</h3>
        <FileButton
          size="small"
          loading={add.isPending}
          label="photograph"
          accept="image/jpeg,image/png,image/webp"
          onFile={(file) => add.mutate({ file, meta: { seen: view.revision, connector } })}
        >
          Add one
        </FileButton>
      </div>
      {add.error && (
        <div className="problem" role="alert">
          {explain(add.error)} Nothing was kept.
        </div>
      )}
      <div className="thumbs">
        {mine.map((p) => (
          <figure key={p.id}>
            <a href={fileAddress(job, `gather/photos/${p.id}`)} target="_blank" rel="noreferrer">
              <img src={fileAddress(job, `gather/photos/${p.id}/thumb`)} alt={`connector ${connector}`} />
            </a>
            <button className="plain" onClick={() => drop.mutate({ seen: view.revision, fact: p.id })}>
              take away
            </button>
          </figure>
        ))}
      </div>
      <p className="quiet">
        JPEG, PNG or WebP to 25 MB. Kept with the job, made smaller, without place and time from the camera.
      </p>
    </section>
  );
}
