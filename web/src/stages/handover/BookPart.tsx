import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { useBookPage, useBookWhere } from '../../api/handover';
import { fileAddress } from '../../api/hooks';
import type { BookPageView, BookWire, HandoverView } from '../../api/types.gen';
import { useCursor } from '../../keys/useCursor';
import { amps } from '../../work/amps';
import { KeyTabs } from '../../work/KeyTabs';
import { Diagram } from './Diagram';
import { liveWord } from '../../work/live';

/** The book's drawn pages: the same drawing as on paper, live under a key, from which a wire leads to its decision. */
export function BookPart({ job, view }: { job: string; view: HandoverView }) {
  const [address, setAddress] = useSearchParams();
  const numbers = view.pages.map((p) => p.number);
  const wire = address.get('wire') ?? '';
  const asked = Number(address.get('page'));
  const where = useBookWhere(job, asked === 0 ? wire : '');
  const at = Math.max(0, numbers.indexOf(asked === 0 ? (where.data?.page ?? 0) : asked));
  const looking = asked === 0 && wire !== '' && !where.data && !where.isError;
  const page = useBookPage(job, looking ? undefined : numbers[at]);
  const go = (i: number) => {
    const n = numbers[i];
    if (n !== undefined) {
      setAddress({ part: 'book', page: String(n) }, { replace: true });
    }
  };
  const select = (w: string) =>
    setAddress({ part: 'book', page: String(numbers[at] ?? ''), wire: w }, { replace: true });
  useCursor(at, numbers.length, go);
  if (view.pages.length === 0) {
    return <p className="proveempty">There is no wire to draw yet: bring a pinout in Gather.</p>;
  }
  return (
    <div className="bookgrid">
      <nav className="bookpages" aria-label="pages of the book">
        {view.pages.map((p, i) => (
          <button
            key={p.number}
            className={`plain bookpage${i === at ? ' on' : ''}`}
            aria-current={i === at}
            onClick={() => go(i)}
          >
            <span className="mono quiet">{p.number}</span> {p.title}
            <span className="quiet">
              {' '}
              {p.planned > 0 ? `┄ ${p.planned} of ${p.wires} planned` : `${p.wires}`}
            </span>
          </button>
        ))}
      </nav>
      <section className="bookdrawing" aria-busy={page.isFetching}>
        {where.isError && <p className="problem">{explain(where.error)}</p>}
        {page.data && (
          <Page key={page.data.title} {...{ job, wire, select }} number={numbers[at] ?? 0} view={page.data} />
        )}
      </section>
    </div>
  );
}

/** As the print has it, or as it is with the key in a position. */
const printed = 'as printed';

interface PageProps {
  job: string;
  number: number;
  view: BookPageView;
  wire: string;
  select: (wire: string) => void;
}

function Page({ job, number, view, wire, select }: PageProps) {
  const [position, turn] = useState(printed);
  const positions = [printed, ...(view.wires[0]?.in ?? []).map((x) => x.position)];
  const is = (w: BookWire) => w.in.find((x) => x.position === position);
  const live =
    position === printed ? undefined : new Map(view.wires.map((w) => [w.name, is(w)?.live ?? 'floating']));
  const chosen = new Set(view.wires.filter((w) => w.name === wire || w.whole === wire).map((w) => w.name));
  return (
    <>
      <div className="bar">
        <h2 className="grow">{view.title}</h2>
        {positions.length > 1 && (
          <KeyTabs positions={positions.map((name) => ({ name }))} at={position} onTurn={turn} />
        )}
        <a href={fileAddress(job, `handover/svg/${number}.svg`)}>SVG</a>
      </div>
      {view.goes && <p className="quiet">{view.goes}</p>}
      <Diagram drawing={view.drawing} chosen={chosen} live={live} onPick={select} />
      <table className="table" aria-label="wires of this page" data-testid="bookwires">
        <thead>
          <tr>
            <th>wire</th>
            <th>colour, mm²</th>
            <th>circuit</th>
            <th>function</th>
            <th>from</th>
            <th>to</th>
            <th className="right">mm</th>
            <th>{live ? position : 'state'}</th>
          </tr>
        </thead>
        <tbody>
          {view.wires.map((w) => (
            <tr key={w.name} className={chosen.has(w.name) ? 'selected' : ''}>
              <td className="mono">
                <Link to={`/jobs/${job}/thin?sel=wire:${encodeURIComponent(w.whole)}`}>{w.name}</Link>
              </td>
              <td className="mono">{w.text}</td>
              <td className="mono">{w.circuit}</td>
              <td>{w.function}</td>
              <td className="mono">{w.from}</td>
              <td className="mono">{w.to}</td>
              <td className="mono right">{w.mm ? Math.round(w.mm) : ''}</td>
              <td className="oneline">{live ? said(is(w)) : w.planned ? '┄ planned' : 'as built'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

function said(x: BookWire['in'][number] | undefined) {
  if (!x || x.live === 'floating') {
    return <span className="quiet">floating</span>;
  }
  const word = liveWord[x.live];
  return (
    <>
      {word}{' '}
      <span className="mono">
        {x.volts.toFixed(1)} V{x.amps >= 0.0005 ? `, ${amps(x.amps)}` : ''}
      </span>
    </>
  );
}
