import { Button } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { explain } from '../../api/client';
import { useTakeWay } from '../../api/join';
import type { Item, JoinView, SumWay } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { stageName } from '../../work/words';
import { SiteSelect } from './SiteSelect';

interface Props {
  job: string;
  view: JoinView;
  item: Item;
  way: SumWay;
  index: number;
  onTaken: () => void;
}

/** A way to make a function work: taken at once, or once it is said where its part comes. */
export function WayRow({ job, view, item, way, index, onTaken }: Props) {
  const take = useTakeWay(job);
  const [open, show] = useState(false);
  const [within, choose] = useState<string | undefined>();
  const [leads, lead] = useState<Record<string, string>>({});
  const part = way.part;
  const asked = (part?.leads ?? []).filter((l) => !l.own);
  const places = Boolean(part?.in) || asked.length > 0;
  const ready = (!part?.in || within) && asked.every((l) => leads[l.point]);
  const takes = Boolean(way.facts ?? way.unit ?? part);
  const send = () =>
    take.mutate(
      {
        seen: view.revision,
        function: item.id,
        way: index,
        text: way.text,
        ...(within ? { in: within } : {}),
        leads,
      },
      { onSuccess: onTaken, onError: (e) => notice.warning(explain(e)) },
    );
  return (
    <div className="sumway">
      <div className="bar">
        <span>{way.text}</span>
        <span className="grow" />
        {way.stage && (
          <Link to={way.stage === 'try' ? '?part=try' : `../${way.stage}`}>
            {way.stage === 'try' ? 'Try it' : stageName(way.stage)}
          </Link>
        )}
        {takes && (
          <Button
            size="small"
            onClick={() => (places && !open ? show(true) : send())}
            disabled={open && !ready}
          >
            Take this way{places && !open ? '…' : ''}
          </Button>
        )}
      </div>
      {open && places && (
        <div className="wayplaces">
          {part?.in && (
            <label>
              <span>the wire is cut behind</span>
              <SiteSelect
                view={view}
                item={item}
                label="the wire is cut behind"
                value={within}
                onChoose={choose}
                cavities
              />
            </label>
          )}
          {asked.map((l) => (
            <label key={l.point}>
              <span>
                <span className="mono">{l.point}</span> {l.asks}
              </span>
              <SiteSelect
                view={view}
                item={item}
                label={l.asks}
                value={leads[l.point]}
                onChoose={(at) => lead({ ...leads, [l.point]: at })}
              />
            </label>
          ))}
        </div>
      )}
    </div>
  );
}
