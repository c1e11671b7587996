import { Button } from 'antd';
import type { ProveView, TrainEnd } from '../../api/types.gen';
import { When } from '../../frame/When';
import type { Walk } from './TrainerMeter';
import { shown } from './words';

interface Props {
  view: ProveView;
  end: TrainEnd;
  walked: readonly Walk[];
  onAgain: () => void;
}

/** How a round ended: what it was, the person's way, and the way by the best next measurement each time. */
export function Ended({ view, end, walked, onAgain }: Props) {
  return (
    <section className="trainerend" data-testid="ended">
      <h1>{end.right ? '✓ That is it.' : '✕ It was something else.'}</h1>
      {end.hidden.map((h, i) => (
        <p key={h}>
          <strong>{h}.</strong> <span className="quiet">{end.do[i]}</span>
        </p>
      ))}
      <div className="bar">
        <Button type="primary" onClick={onAgain}>
          Another round
        </Button>
      </div>
      <div className="trainerways">
        <div>
          <h2>Your way: {walked.length} measured</h2>
          <ol>
            {walked.map((w, i) => (
              <li key={i}>
                {w.text}: <strong className="mono">{w.shown}</strong> <div className="quiet">{w.how}</div>
              </li>
            ))}
          </ol>
        </div>
        <div>
          <h2>
            By what tells most each time: {end.way.length}
            {!end.reached && ', and it does not come to all of it'}
          </h2>
          <ol>
            {end.way.map((w, i) => (
              <li key={i}>
                {w.text}: <strong className="mono">{shown(w.kind, w.shown.value, w.shown.over)}</strong>
                <div className="quiet">
                  {w.how}. {w.why}
                </div>
              </li>
            ))}
          </ol>
        </div>
      </div>
      <Results view={view} />
    </section>
  );
}

/** What came of the rounds so far, person by person. */
export function Results({ view }: { view: ProveView }) {
  if (view.trained.length === 0) {
    return null;
  }
  const people = [...new Set(view.trained.map((t) => t.who ?? ''))].sort();
  return (
    <>
      <h2>Results</h2>
      <table className="table" aria-label="results" data-testid="results">
        <thead>
          <tr>
            <th>who</th>
            <th>when</th>
            <th>level</th>
            <th>found</th>
            <th>measured</th>
            <th>at best</th>
            <th>minutes</th>
            <th>it was</th>
          </tr>
        </thead>
        <tbody>
          {people.flatMap((who) =>
            view.trained
              .filter((t) => (t.who ?? '') === who)
              .sort((a, b) => (b.when ?? 0) - (a.when ?? 0))
              .map((t) => (
                <tr key={t.id}>
                  <td>{t.who}</td>
                  <td className="quiet oneline">{t.when ? <When ms={t.when} day /> : ''}</td>
                  <td>{view.levels[t.level]?.name}</td>
                  <td>{t.right ? '✓ yes' : '✕ no'}</td>
                  <td className="mono">{t.took}</td>
                  <td className="mono">{t.best || '–'}</td>
                  <td className="mono">{(t.seconds / 60).toFixed(1)}</td>
                  <td>{t.hidden}</td>
                </tr>
              )),
          )}
        </tbody>
      </table>
    </>
  );
}
