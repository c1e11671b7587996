import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { fileAddress } from '../../api/hooks';
import { useSetReading } from '../../api/prove';
import type { ProvedLine, ProveView } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { VirtualRows } from '../../frame/VirtualRows';
import { When } from '../../frame/When';
import { useCursor } from '../../keys/useCursor';
import { useKey } from '../../keys/useKey';
import { BandBar } from './BandBar';
import { Faces } from './Faces';
import { ReadingField } from './ReadingField';
import { useMeter } from './useMeter';
import { bandWords, readingWords, standingOf } from './words';
import { PartLink } from './PartLink';

const sections = {
  first: 'the fewest that find every fault',
  all: 'all of them',
  open: 'not measured yet',
  out: 'out of band',
  continuity: 'continuity',
  loads: 'loads',
  isolation: 'isolation',
  fuses: 'fuses',
  feeds: 'feeds, loaded',
  relays: 'relays',
};

const among = (l: ProvedLine, which: string): boolean => {
  switch (which) {
    case 'first':
      return l.first ?? false;
    case 'all':
      return true;
    case 'open':
      return !l.reading || (l.again ?? false);
    case 'out':
      return Boolean(l.reading) && !l.again && !l.fits;
    default:
      return l.section === which;
  }
};

/** The test sheet: one measurement after the other, where it has to lie, and where it fell. */
export function SheetPart({ job, view }: { job: string; view: ProveView }) {
  const [address, setAddress] = useSearchParams();
  const which = address.get('only') ?? 'first';
  const lines = view.lines.filter((l) => among(l, which));
  const at = Math.max(
    0,
    lines.findIndex((l) => l.id === address.get('line')),
  );
  const line = lines[at];
  const [typing, type] = useState(false);
  const [meter, setMeter] = useMeter();
  const put = (more: Record<string, string>) =>
    setAddress({ ...Object.fromEntries(address), ...more }, { replace: true });
  const go = (i: number) => {
    const l = lines[i];
    if (l) {
      put({ line: l.id });
    }
  };
  useCursor(at, lines.length, go);
  useKey('m', () => type(true));
  useKey('enter', () => type(true));
  return (
    <div className="sheetgrid">
      <div className="sheetmain">
        <div className="bar sheetbar">
          <Select
            size="small"
            aria-label="which measurements"
            style={{ width: 240 }}
            virtual={false}
            value={which}
            onChange={(only: string) => put({ only })}
            options={Object.entries(sections).map(([value, label]) => ({ value, label }))}
          />
          <span className="quiet">
            {lines.length} · <kbd>M</kbd> type in what the meter shows
          </span>
          <span className="grow" />
          <a href={fileAddress(job, 'prove/sheet.pdf')}>PDF</a>
          <a href={fileAddress(job, 'prove/sheet.csv')}>CSV</a>
          <Input
            size="small"
            style={{ width: 195 }}
            aria-label="address of a meter"
            prefix={<span className="quiet">meter at</span>}
            placeholder="typed in by hand"
            value={meter}
            onChange={(e) => setMeter(e.target.value.trim())}
          />
        </div>
        <VirtualRows
          rows={lines}
          keyOf={(l) => l.id}
          estimate={32}
          at={at}
          label="test sheet"
          className="sheetrows"
          testID="sheet"
          head={
            <div role="row" className="sheetrow sheethead quiet">
              <span role="columnheader">
                <span className="unseen">how it stands</span>
              </span>
              <span role="columnheader">red probe</span>
              <span role="columnheader">black probe</span>
              <span role="columnheader">what it proves</span>
              <span role="columnheader">must show</span>
              <span role="columnheader">read</span>
            </div>
          }
          draw={(l, i) => {
            const s = standingOf(l);
            return (
              <div
                role="row"
                aria-selected={l.id === line?.id}
                className={`sheetrow${l.id === line?.id ? ' selected' : ''}${l.waits ? ' quiet' : ''}`}
                onClick={() => go(i)}
              >
                <span role="gridcell" title={s.word}>
                  {s.mark}
                </span>
                <span role="gridcell" className="mono">
                  {l.a}
                </span>
                <span role="gridcell" className="mono">
                  {l.b}
                </span>
                <span role="gridcell" className="quiet">
                  {l.why}
                  {l.setup.key && l.section === 'feeds' ? `, key in ${l.setup.key}` : ''}
                </span>
                <span role="gridcell" className="mono">
                  {bandWords(l.kind, l.band)}
                </span>
                <span role="gridcell" className="mono">
                  {l.reading ? readingWords(l.reading) : ''}
                </span>
              </div>
            );
          }}
        />
      </div>
      <aside className="reasons" aria-label="the measurement">
        {line && (
          <Line
            key={line.id}
            {...{ job, view, line, typing, meter }}
            onKept={() => {
              type(true);
              go(at + 1);
            }}
          />
        )}
      </aside>
    </div>
  );
}

interface LineProps {
  job: string;
  view: ProveView;
  line: ProvedLine;
  typing: boolean;
  meter: string;
  onKept: () => void;
}

function Line({ job, view, line, typing, meter, onKept }: LineProps) {
  const set = useSetReading(job);
  const s = standingOf(line);
  return (
    <>
      <div>
        <h2>{line.text}</h2>
        <div>{line.how}</div>
        <div className="quiet">{line.why}</div>
      </div>
      {line.caution && <div className="warned">▲ {line.caution}</div>}
      <section data-testid="band">
        <h3>It must show {bandWords(line.kind, line.band)}</h3>
        <BandBar
          kind={line.kind}
          band={line.band}
          {...(line.reading && !line.again ? { reading: line.reading } : {})}
        />
        {line.reading && (
          <div>
            {s.mark} <strong>{readingWords(line.reading)}</strong>, {s.word}{' '}
            <span className="quiet">
              {line.reading.who} {line.reading.when ? <When ms={line.reading.when} day /> : ''}
            </span>{' '}
            <Button
              size="small"
              onClick={() =>
                set.mutate(
                  { seen: view.revision, out: line.id },
                  { onError: (e) => notice.warning(explain(e)) },
                )
              }
            >
              Take it back
            </Button>
          </div>
        )}
        {line.waits && <div className="quiet">What it measures is not built yet.</div>}
      </section>
      <ReadingField
        key={meter}
        job={job}
        revision={view.revision}
        measure={line}
        focus={typing}
        onKept={onKept}
      />
      {line.reading && !line.again && !line.fits && (
        <PartLink part="fault">Find the fault: what could be wrong, and what to measure next</PartLink>
      )}
      <Faces view={view} spots={line.spots} width={300} />
    </>
  );
}
