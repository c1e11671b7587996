import './reach.css';
import { Button } from 'antd';
import { useRef, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { notice } from '../../frame/notice';
import { useDocument } from '../../outbox/useOutbox';
import { useMapChange, useReach, useRulesChange } from '../../api/reach';
import type { ReachView } from '../../api/types.gen';
import { useJobID } from '../../frame/Frame';
import { useKey } from '../../keys/useKey';
import { BundlesPart } from './BundlesPart';
import { CutPart } from './CutPart';
import { JointsPart } from './JointsPart';
import { MapPart } from './MapPart';
import { PlacesPart } from './PlacesPart';
import { RulesDialog } from './RulesDialog';
import { StartMap } from './StartMap';
import { WorkPart } from './WorkPart';
import { metres } from './words';

const parts = [
  ['map', 'Map'],
  ['places', 'Placements'],
  ['cuts', 'Cut list'],
  ['joints', 'Joints and wire'],
  ['bundles', 'Bundles'],
  ['work', 'Work'],
] as const;

export function ReachPage() {
  const job = useJobID();
  const reach = useReach(job);
  if (reach.isError && !reach.data) {
    return <main className="page problem">{explain(reach.error)}</main>;
  }
  return reach.data ? <Reach job={job} view={reach.data} /> : <main className="page" aria-busy="true" />;
}

function Reach({ job, view }: { job: string; view: ReachView }) {
  const [address, setAddress] = useSearchParams();
  const [settings, showSettings] = useState(false);
  const go = useNavigate();
  const warn = (e: unknown) => notice.warning(explain(e));
  const map = useMapChange(job);
  const rules = useRulesChange(job);
  const renamed = useRef<Record<string, string>>({}); // stations, until the change that renames them is sent
  const changeMap = useDocument(
    'map',
    view.revision,
    view.map,
    (doc, seen) => {
      const names = renamed.current;
      renamed.current = {};
      return map.mutateAsync({
        map: doc,
        ...seen,
        ...(Object.keys(names).length > 0 ? { renamed: names } : {}),
      });
    },
    warn,
  );
  const rename = (from: string, to: string) => {
    renamed.current = { ...renamed.current, [from]: to };
    changeMap((m) => ({
      stations: m.stations.map((s) => (s.id === from ? { ...s, id: to } : s)),
      paths: m.paths.map((p) => ({
        ...p,
        from: p.from === from ? to : p.from,
        to: p.to === from ? to : p.to,
      })),
    }));
  };
  const changeRules = useDocument(
    'rules',
    view.revision,
    view.rules,
    (doc, seen) => rules.mutateAsync({ rules: doc, ...seen }),
    warn,
  );
  const part = parts.find(([p]) => p === address.get('part'))?.[0] ?? 'map';
  useKey('1,2,3,4,5,6', (e) => {
    const chosen = parts[Number(e.key) - 1];
    if (chosen) {
      setAddress({ part: chosen[0] });
    }
  });
  useKey('b', () => void go('../bench?stage=reach'));
  const blank = view.map.stations.length === 0;
  const props = { job, view, onError: warn };
  return (
    <main className="reachpage">
      <h1 className="unseen">Reach: where things live and what each wire must span</h1>
      <Standing view={view} onSettings={() => showSettings(true)} />
      <nav className="sides" aria-label="parts of Reach">
        {parts.map(([p, word], i) => (
          <Link key={p} to={`?part=${p}`} className={p === part ? 'on' : ''}>
            <kbd>{i + 1}</kbd> {word}
          </Link>
        ))}
      </nav>
      {blank ? (
        <StartMap onStart={(m) => changeMap(() => m)} />
      ) : (
        <>
          {part === 'map' && <MapPart {...props} onMap={changeMap} onRename={rename} />}
          {part === 'places' && <PlacesPart {...props} />}
          {part === 'cuts' && <CutPart {...props} />}
          {part === 'joints' && <JointsPart {...props} onRules={changeRules} />}
          {part === 'bundles' && <BundlesPart {...props} onMap={changeMap} onRules={changeRules} />}
          {part === 'work' && <WorkPart {...props} />}
        </>
      )}
      {settings && <RulesDialog view={view} onRules={changeRules} onClose={() => showSettings(false)} />}
    </main>
  );
}

/** How things stand, in one line. */
function Standing({ view, onSettings }: { view: ReachView; onSettings: () => void }) {
  const f = view.figures;
  const counts: [number, string][] = [
    [f.wires, 'wires routed'],
    [f.extend, 'to extend'],
    [f.replace + f.fresh, 'new'],
    [f.unknown, 'to measure'],
    [f.noWay, 'without a way'],
    [f.provisional, 'provisional'],
    [f.joints, 'joints'],
  ];
  return (
    <div className="standing" data-testid="standing">
      {counts
        .filter(([n], i) => n > 0 || i < 2)
        .map(([n, word]) => (
          <span key={word}>
            <strong className="mono">{n}</strong> {word}
          </span>
        ))}
      <span>
        <strong className="mono">{metres(f.buy)}</strong> to buy
        {f.stock > 0 && (
          <span className="quiet">
            , <span className="mono">{metres(f.stock)}</span> from stock
          </span>
        )}
      </span>
      {f.hole > 0 && (
        <span>
          hole <strong className="mono">{f.hole} mm</strong>
        </span>
      )}
      <span>
        <strong className="mono">{f.hours}</strong> h
      </span>
      <span className="grow" />
      <Button size="small" onClick={onSettings}>
        How we work…
      </Button>
    </div>
  );
}
