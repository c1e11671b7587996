import { Button } from 'antd';
import type { Item, JoinView } from '../../api/types.gen';
import { SeverityMark } from '../../frame/SeverityMark';
import { Needed } from './Needed';

interface Props {
  job: string;
  view: JoinView;
  item: Item;
  onDecide: (it: Item, choice: '' | 'wanted' | 'not-fitted') => void;
  onGiveUp: (it: Item) => void;
}

/** Why a function stands as it does, what the law may say, and where it is decided. */
export function JoinReasons({ job, view, item, onDecide, onGiveUp }: Props) {
  return (
    <>
      <div>
        <h2>{item.name}</h2>
        <div className="quiet">
          {item.state}: {item.why}
        </div>
      </div>
      <Needed key={item.id} {...{ job, view, item }} />
      {view.findings
        .filter((f) => f.subject === item.id && !f.answer)
        .map((f) => (
          <div key={f.code} className="inreasons">
            <SeverityMark severity={f.severity} /> {f.text} <span className="quiet">{f.remedy}</span>
          </div>
        ))}
      {item.law && (
        <section>
          <h3>The law may say</h3>
          <div>{item.law}</div>
          <div className="quiet">Local rules decide.</div>
        </section>
      )}
      {item.codes && (
        <section>
          <h3>Given up it raises</h3>
          <div className="mono">{item.codes.join(' ')}</div>
          <div className="quiet">SAE J2012, from memory: for whoever programs the unit.</div>
        </section>
      )}
      <section>
        <h3>{item.choice ? `Decided: ${item.choice.replace('-', ' ')}` : 'Decide'}</h3>
        {item.reason && <div>{item.reason}</div>}
        <div className="joindecide">
          <Button size="small" onClick={() => onDecide(item, 'wanted')}>
            Wanted <kbd>W</kbd>
          </Button>
          <Button size="small" onClick={() => onGiveUp(item)}>
            Given up… <kbd>G</kbd>
          </Button>
          <Button size="small" onClick={() => onDecide(item, 'not-fitted')}>
            Not fitted <kbd>X</kbd>
          </Button>
          {item.choice && (
            <Button size="small" onClick={() => onDecide(item, '')}>
              Reopen <kbd>R</kbd>
            </Button>
          )}
        </div>
      </section>
      {(view.settings.length > 0 || view.raised.length > 0) && (
        <section data-testid="programmer">
          <h3>For whoever programs the unit</h3>
          {view.settings.map((s) => (
            <div key={s}>{s}</div>
          ))}
          {view.raised.map((x) => (
            <div key={x.function}>
              {x.function}, not all there any more: <span className="mono">{x.codes.join(' ')}</span>
            </div>
          ))}
        </section>
      )}
    </>
  );
}
