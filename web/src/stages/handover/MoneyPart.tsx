import { Button } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { fileAddress } from '../../api/hooks';
import { useCosts, useMoney } from '../../api/handover';
import type { Cost, MoneyView, WayCost } from '../../api/types.gen';
import { stageName } from '../../work/words';
import { hours } from './hours';
import { OrderList } from './OrderList';
import { PriceList } from './PriceList';
import { TermsForm, TimeForm } from './TimeForms';

/** Time, parts and money: what was reckoned, what it took, what is left, what is to be ordered, and when it is done. */
export function MoneyPart({ job }: { job: string }) {
  const money = useMoney(job);
  if (money.isError && !money.data) {
    return <p className="problem">{explain(money.error)}</p>;
  }
  return money.data ? <Money job={job} view={money.data} /> : <div className="duepart" aria-busy="true" />;
}

function Money({ job, view }: { job: string; view: MoneyView }) {
  const unit = view.terms.currency ?? '';
  return (
    <div className="duepart">
      <div className="moneygrid">
        <section>
          <h2>Time</h2>
          <Stages view={view} />
          <TimeForm job={job} view={view} />
          <h2>What it comes to</h2>
          <Sum cost={view.cost} unit={unit} view={view} />
          <TermsForm job={job} view={view} />
          <Ways job={job} />
        </section>
        <section>
          <h2>When it is done</h2>
          <When view={view} />
        </section>
      </div>
      <h2>
        Order list <span className="quiet">of all stages</span>{' '}
        <a className="plainlink" href={fileAddress(job, 'handover/orders.csv')}>
          as CSV
        </a>{' '}
        <PriceList job={job} />
      </h2>
      <OrderList job={job} view={view} />
    </div>
  );
}

function Stages({ view }: { view: MoneyView }) {
  return (
    <table className="table" aria-label="hours by stage" data-testid="hours">
      <thead>
        <tr>
          <th>stage</th>
          <th className="right">steps</th>
          <th className="right">reckoned</th>
          <th className="right">of it done</th>
          <th className="right">it took</th>
          <th
            className="right"
            title="what a reckoned hour takes, learned from what is done; an hour of belief that it takes an hour counts with it"
          >
            a reckoned hour takes
          </th>
          <th className="right">left</th>
        </tr>
      </thead>
      <tbody>
        {view.hours.stages.map((s) => (
          <tr key={s.stage}>
            <td>{stageName(s.stage)}</td>
            <td className="mono right">{s.steps > 0 ? `${s.done} of ${s.steps}` : ''}</td>
            <td className="mono right">{hours(s.estimate)}</td>
            <td className="mono right">{hours(s.earned)}</td>
            <td className="mono right">{hours(s.spent)}</td>
            <td className="mono right">{s.spent > 0 && s.earned > 0 ? `${s.learned.toFixed(2)} h` : ''}</td>
            <td className="mono right">{hours(s.left)}</td>
          </tr>
        ))}
        <tr className="sum">
          <td>in all</td>
          <td />
          <td className="mono right">{hours(view.hours.estimate)}</td>
          <td />
          <td className="mono right">{hours(view.hours.spent)}</td>
          <td />
          <td className="mono right">{hours(view.hours.left)}</td>
        </tr>
      </tbody>
    </table>
  );
}

function When({ view }: { view: MoneyView }) {
  const [whole, show] = useState(false);
  const links = whole ? view.chain : view.chain.slice(0, 3);
  return (
    <div data-testid="when">
      {view.known ? (
        <p>
          <strong className="mono">{view.ready}</strong>, with{' '}
          {view.terms.hands && view.terms.hands > 1
            ? `${view.terms.hands} pairs of hands`
            : 'one pair of hands'}{' '}
          and {view.terms.hoursADay} h a day
          {view.idle > 0 && (
            <>
              ; hands wait <strong className="mono">{hours(view.idle)}</strong> for parts
            </>
          )}
          .
        </p>
      ) : (
        <p className="quiet">Say below how many hours a day are worked, and dates can be told.</p>
      )}
      {view.late.length > 0 && (
        <table className="table" aria-label="parts that are late" data-testid="late">
          <thead>
            <tr>
              <th>▲ late</th>
              <th>wanted, comes</th>
              <th>waits for it</th>
            </tr>
          </thead>
          <tbody>
            {view.late.map((l) => (
              <tr key={l.key}>
                <td>{l.what}</td>
                <td className="mono oneline">
                  <div>{l.wants}</div>
                  <div>{l.there}</div>
                </td>
                <td>
                  <span className="quiet">{l.step}</span>
                  <div>
                    {l.spare > 0 ? (
                      <>
                        may come <span className="mono">{hours(l.spare)}</span> of work later still
                      </>
                    ) : (
                      <strong>all waits for it</strong>
                    )}
                  </div>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {view.chain.length > 0 && (
        <>
          <p className="quiet">
            However many hands: no less than {hours(view.least)}, by {view.chain.length} steps each of which
            waits for the one before.
          </p>
          <ol className="chain">
            {links.map((l, i) => (
              <li key={i}>
                {l.part && <strong>wait for {l.part}; then </strong>}
                {l.text} <span className="mono quiet">{Math.round(l.minutes)} min</span>
              </li>
            ))}
          </ol>
          {view.chain.length > 3 && (
            <button className="plain" onClick={() => show(!whole)}>
              {whole ? 'fewer' : `all ${view.chain.length}`}
            </button>
          )}
        </>
      )}
    </div>
  );
}

const amount = (x: number, unit: string) => `${x.toFixed(2)}${unit ? ` ${unit}` : ''}`;

function Sum({ cost, unit, view }: { cost: Cost; unit: string; view: MoneyView }) {
  return (
    <table className="table sums" aria-label="cost" data-testid="cost">
      <tbody>
        <tr>
          <td>parts and wire</td>
          <td className="quiet">
            {cost.unpriced > 0
              ? `without ${cost.unpriced} lines of which nobody has said the price`
              : `${cost.lines} lines`}
          </td>
          <td className="mono right oneline">{amount(cost.parts, unit)}</td>
        </tr>
        <tr>
          <td>work</td>
          <td className="quiet">
            {hours(cost.minutes)}
            {view.terms.perHour
              ? ` at ${amount(view.terms.perHour, unit)}`
              : ', of which nobody has said what an hour costs'}
          </td>
          <td className="mono right oneline">{amount(cost.work, unit)}</td>
        </tr>
        {cost.tax > 0 && (
          <tr>
            <td>tax</td>
            <td className="quiet">{view.terms.tax} %</td>
            <td className="mono right oneline">{amount(cost.tax, unit)}</td>
          </tr>
        )}
        <tr className="sum">
          <td>in all</td>
          <td />
          <td className="mono right oneline">{amount(cost.all, unit)}</td>
        </tr>
      </tbody>
    </table>
  );
}

const where: Partial<Record<WayCost['stage'], string>> = {
  feed: 'a way to feed it',
  reach: 'a way to place it',
};

/** What this way costs beside those that are compared in Feed and Reach. */
function Ways({ job }: { job: string }) {
  const [asked, ask] = useState(false);
  const costs = useCosts(job, asked);
  if (!asked) {
    return (
      <Button size="small" onClick={() => ask(true)}>
        Beside the other ways
      </Button>
    );
  }
  if (costs.isError) {
    return <p className="problem">{explain(costs.error)}</p>;
  }
  if (!costs.data) {
    return (
      <p className="quiet" aria-busy="true">
        Each way is planned whole…
      </p>
    );
  }
  if (costs.data.ways.length === 1) {
    return <p className="quiet">No other way is compared: Feed and Reach keep ways that can be.</p>;
  }
  return (
    <table className="table" aria-label="ways compared" data-testid="ways">
      <thead>
        <tr>
          <th>way</th>
          <th className="right">hours</th>
          <th className="right">lines</th>
          <th className="right">no price</th>
          <th className="right">in all</th>
        </tr>
      </thead>
      <tbody>
        {costs.data.ways.map((w) => (
          <tr key={`${w.stage} ${w.name}`}>
            <td>
              {w.name} <span className="quiet">{where[w.stage]}</span>
              {!w.reached && ' ✕ not proven'}
            </td>
            <td className="mono right">{hours(w.minutes)}</td>
            <td className="mono right">{w.lines}</td>
            <td className="mono right">{w.cost.unpriced || ''}</td>
            <td className="mono right oneline">{amount(w.cost.all, costs.data.currency)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
