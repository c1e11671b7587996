import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { fileAddress } from '../../api/hooks';
import { useFace, useFacePreview, useFaces, useLibrary, useOpenFaces } from '../../api/pin';
import type { Connector, Face, FacesView } from '../../api/types.gen';
import { FileButton } from '../../frame/FileButton';
import { notice } from '../../frame/notice';
import { ConnectorFace, type Contents } from '../../harness/ConnectorFace';
import { useCursor } from '../../keys/useCursor';

const nothing: Contents = new Map(); // the names are what is looked at here

/** What each connector's face is like: said in words or taken from the library, and drawn from both sides. */
export function FacesPart({ job }: { job: string }) {
  const faces = useFaces(job);
  if (faces.isError && !faces.data) {
    return <div className="problem">{explain(faces.error)}</div>;
  }
  return faces.data ? <FaceList job={job} view={faces.data} /> : <div aria-busy="true" />;
}

function FaceList({ job, view }: { job: string; view: FacesView }) {
  const [address, setAddress] = useSearchParams();
  const openFile = useOpenFaces(job);
  const warn = (e: unknown) => notice.warning(explain(e));
  const at = Math.max(
    0,
    view.connectors.findIndex((h) => h.id === address.get('connector')),
  );
  const go = (i: number) => {
    const next = view.connectors[Math.max(0, Math.min(view.connectors.length - 1, i))];
    if (next) {
      setAddress({ part: 'faces', connector: next.id }, { replace: true });
    }
  };
  useCursor(at, view.connectors.length, go);
  const housing = view.connectors[at];
  return (
    <div className="facespart">
      <div className="facelist">
        <div className="bar pad">
          <Button href={fileAddress(job, 'pin/faces.json')}>Save as JSON</Button>
          <FileButton
            label="file of faces"
            accept="application/json,.json"
            onFile={(chosen) => openFile.mutate(chosen, { onError: warn })}
          >
            Open JSON…
          </FileButton>
        </div>
        {view.connectors.map((h, i) => (
          <button
            key={h.id}
            className={`plain facerow${i === at ? ' on' : ''}`}
            aria-pressed={i === at}
            onClick={() => go(i)}
          >
            <strong className="mono">{h.id}</strong>
            <span className="grow">
              {h.cavities.length}-way
              {h.layout?.colour ? `, ${h.layout.colour}` : ''}
            </span>
            <span className="quiet">{h.layout ? '' : h.assumed ? 'rows assumed' : 'from the table'}</span>
          </button>
        ))}
      </div>
      {housing ? (
        <FaceEditor key={housing.id} job={job} view={view} housing={housing} onError={warn} />
      ) : (
        <div className="empty">
          <h2>No connectors yet</h2>
          <p>Bring a pinout in Gather, and its connectors stand here.</p>
        </div>
      )}
    </div>
  );
}

interface EditorProps {
  job: string;
  view: FacesView;
  housing: Connector;
  onError: (e: unknown) => void;
}

function FaceEditor({ job, view, housing, onError }: EditorProps) {
  const [words, setWords] = useState('');
  const [asked, ask] = useState('');
  const preview = useFacePreview(asked);
  const library = useLibrary();
  const keep = useFace(job);
  const shown: Face | undefined = preview.data?.face ?? view.faces[housing.id];
  const fits = (preview.data?.ways ?? housing.cavities.length) >= housing.cavities.length;
  const terminal = (preview.data?.layout ?? housing.layout)?.terminal;
  const mate = view.mates[housing.id];
  const put = (face: { words?: string; mate?: boolean }) =>
    keep.mutate(
      { connector: housing.id, seen: view.revision, subject: housing.id, ...face },
      {
        onError,
        onSuccess: () => {
          setWords('');
          ask('');
        },
      },
    );
  return (
    <div className="faceeditor">
      <h2>
        Plug {housing.id}, {housing.cavities.length}-way
      </h2>
      <div className="quiet">
        {housing.layout
          ? housing.layout.title
          : housing.assumed
            ? 'Nobody has said how its rows lie: they are drawn as a guess. Look at the moulded numbers.'
            : 'Its rows were said in Gather; its lock, keys and terminals were not.'}
      </div>
      {shown && (
        <div className="bothviews">
          {(['wire', 'mating'] as const).map((v) => (
            <figure key={v}>
              <ConnectorFace
                connector={housing.id}
                drawing={shown[v]}
                contents={nothing}
                width={460}
                height={260}
              />
              <figcaption className="quiet">{shown[v].words}</figcaption>
            </figure>
          ))}
        </div>
      )}
      <div className="bar">
        <Input
          className="grow"
          aria-label="the face in words"
          placeholder="3 rows of 12, 12, 11, numbered from top right on the wire side"
          value={words}
          maxLength={300}
          onChange={(e) => setWords(e.target.value)}
          onPressEnter={() => ask(words)}
        />
        <Button onClick={() => ask(words)} disabled={!words.trim()}>
          Draw it
        </Button>
        <Button type="primary" disabled={!preview.data} onClick={() => put({ words: asked })}>
          Keep this face
        </Button>
        {mate && <Button onClick={() => put({ mate: true })}>As {mate} wants it, mirrored</Button>}
        {housing.layout && <Button onClick={() => put({})}>Forget it</Button>}
      </div>
      {preview.error && (
        <div className="problem" role="alert" style={{ marginTop: 8 }}>
          {explain(preview.error)}
        </div>
      )}
      {preview.data && !fits && (
        <div className="problem" style={{ marginTop: 8 }}>
          It has {preview.data.ways} cavities, and the table names {housing.cavities.length}: the rest is kept
          beside it.
        </div>
      )}
      <div className="bar" style={{ marginTop: 10 }}>
        <label htmlFor="library">From the library of generic faces</label>
        <Select
          id="library"
          style={{ width: 420 }}
          aria-label="library"
          placeholder="rows, seal, width of the contact"
          value={null}
          showSearch={{ optionFilterProp: 'label' }}
          options={(library.data?.faces ?? []).map((f) => ({
            value: f.layout.title ?? '',
            label: f.layout.title ?? '',
          }))}
          onChange={(title: string | null) => {
            if (title) {
              setWords(title);
              ask(title);
            }
          }}
        />
      </div>
      <dl className="facefacts">
        <dt>terminals</dt>
        <dd>
          {terminal?.blade
            ? `${terminal.blade} mm ${terminal.gender ?? ''}, family ${terminal.family ?? 'not said'}`
            : 'not said: whether a terminal travels cannot be told'}
        </dd>
        <dt>sealed</dt>
        <dd>
          {terminal?.sealing === 'mat'
            ? 'by a mat'
            : terminal?.sealing === 'wire'
              ? 'by a seal on each wire'
              : 'no'}
        </dd>
        <dt>secondary lock</dt>
        <dd>{(preview.data?.layout ?? housing.layout)?.secondary ?? 'not said'}</dd>
      </dl>
      <p className="quiet">
        Words that are understood: rows and their lengths; numbered from top or bottom, left or right; on the
        wire side or mating face; by columns; back and forth; lettered, all letters; sealed, sealed by a mat,
        unsealed; male, female; 0.64, 1.5, 2.8, 6.3 mm; family and a name; tin, gold, silver; rear release,
        front release, pull to seat; over-moulded, soldered, insulation displacement; comb, wedge, cover,
        slide; lock at the top, bottom, left, right; key at the bottom 25 %; row 2 of 2.8 mm; and, for names
        that follow no rule, last of all: named 1 2 . 3 / 4 5 6 7, row by row, a full stop for a gap.
      </p>
    </div>
  );
}
