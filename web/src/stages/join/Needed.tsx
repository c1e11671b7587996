import { Button } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { explain } from '../../api/client';
import { useAddWire } from '../../api/join';
import type { Item, JoinView, Need } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { stageName } from '../../work/words';
import { SiteSelect } from './SiteSelect';

/** Where a need is seen to, as an address of the page. */
function placeOf(n: Need): string | undefined {
  switch (n.stage) {
    case 'match':
      return n.row && `../match?row=${encodeURIComponent(n.row)}`;
    case 'gather':
      return n.at ? '../gather?part=readings' : '../gather?part=vehicles';
    case 'feed':
      return '../feed?part=live';
    case undefined:
      return undefined;
    default:
      return `../${n.stage}`;
  }
}

/** What a function lacks, each with the way to where it is seen to; an end that nothing comes to gets a wire here. */
export function Needed({ job, view, item }: { job: string; view: JoinView; item: Item }) {
  const needs = item.needs ?? [];
  const [wiring, wire] = useState<string | undefined>();
  if (needs.length === 0) {
    return null;
  }
  return (
    <section>
      <h3>It needs</h3>
      {needs.map((n) => {
        const to = placeOf(n);
        return (
          <div key={n.text} className="need">
            {n.text}
            {n.stage && (to ?? n.at) && (
              <div className="bar">
                {to && <Link to={to}>{stageName(n.stage)}</Link>}
                {n.at && n.stage === 'match' && (
                  <button className="plain" onClick={() => wire(wiring === n.at ? undefined : n.at)}>
                    A wire to {n.at}…
                  </button>
                )}
              </div>
            )}
            {n.at && wiring === n.at && <WireTo {...{ job, view, item }} at={n.at} />}
          </div>
        );
      })}
    </section>
  );
}

function WireTo({ job, view, item, at }: { job: string; view: JoinView; item: Item; at: string }) {
  const add = useAddWire(job);
  const [to, choose] = useState<string | undefined>();
  const site = view.sites.find((s) => s.at === at);
  if (site?.why) {
    return <div className="quiet">None can be joined on there: {site.why}.</div>;
  }
  return (
    <div className="bar">
      <SiteSelect view={view} item={item} label={`from ${at} to`} value={to} onChoose={choose} />
      <Button
        size="small"
        disabled={!to}
        onClick={() =>
          to &&
          add.mutate(
            { seen: view.revision, function: item.id, from: at, to },
            { onError: (e) => notice.warning(explain(e)) },
          )
        }
      >
        Lay it
      </Button>
    </div>
  );
}
