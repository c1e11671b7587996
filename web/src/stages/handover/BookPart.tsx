import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useBookPage } from '../../api/handover';
import type { HandoverView } from '../../api/types.gen';
import { useCursor } from '../../keys/useCursor';
import { Diagram } from './Diagram';

/** The book's drawn pages: the same drawing as on paper, from which a wire leads to its decision. */
export function BookPart({ job, view }: { job: string; view: HandoverView }) {
  const [address, setAddress] = useSearchParams();
  const numbers = view.pages.map((p) => p.number);
  const at = Math.max(0, numbers.indexOf(Number(address.get('page'))));
  const page = useBookPage(job, numbers[at]);
  const [wire, select] = useState<string | undefined>();
  const go = (i: number) => {
    const n = numbers[i];
    if (n !== undefined) {
      select(undefined);
      setAddress({ part: 'book', page: String(n) }, { replace: true });
    }
  };
  useCursor(at, numbers.length, go);
  if (view.pages.length === 0) {
    return <p className="proveempty">There is no wire to draw yet: bring a pinout in Gather.</p>;
  }
  const chosen = page.data?.wires.find((w) => w.name === wire);
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
        {page.data && (
          <>
            <h2>{page.data.title}</h2>
            <Diagram drawing={page.data.drawing} chosen={wire} onPick={select} />
            <table className="table" aria-label="wires of this page" data-testid="bookwires">
              <thead>
                <tr>
                  <th>wire</th>
                  <th>colour, mm²</th>
                  <th>circuit</th>
                  <th>function</th>
                  <th>from</th>
                  <th>to</th>
                  <th>mm</th>
                  <th>state</th>
                </tr>
              </thead>
              <tbody>
                {page.data.wires.map((w) => (
                  <tr key={w.name} className={w.name === chosen?.name ? 'selected' : ''}>
                    <td className="mono">
                      <Link to={`/jobs/${job}/thin?sel=wire:${encodeURIComponent(w.whole)}`}>{w.name}</Link>
                    </td>
                    <td className="mono">{w.text}</td>
                    <td className="mono">{w.circuit}</td>
                    <td>{w.function}</td>
                    <td className="mono">{w.from}</td>
                    <td className="mono">{w.to}</td>
                    <td className="mono">{w.mm ? Math.round(w.mm) : ''}</td>
                    <td>{w.planned ? '┄ planned' : 'as built'}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </section>
    </div>
  );
}
