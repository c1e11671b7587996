import { Button } from 'antd';
import { useTemplates } from '../../api/reach';
import type { RouteMap } from '../../api/types.gen';

/** Where nothing has been laid out yet: a map to start from. */
export function StartMap({ onStart }: { onStart: (m: RouteMap) => void }) {
  const templates = useTemplates();
  return (
    <div className="page startmap">
      <h2>Where do things live?</h2>
      <p>
        Every length follows from where the control unit, the fuse block and the battery are. Lay the vehicle
        out as stations and the paths between them; a path has a length that somebody measured. Start from one
        of these, then move, rename and measure. Their lengths are guesses and stay provisional until you
        have.
      </p>
      <div className="stack">
        {templates.data?.templates.map((t) => (
          <div key={t.id} className="sheet pad bar">
            <div className="grow">
              <strong>{t.name}</strong>
              <div className="quiet">
                {t.meaning} {t.map.stations.length} stations,{' '}
                {t.map.paths.length === 1 ? '1 path' : `${t.map.paths.length} paths`}.
              </div>
            </div>
            <Button type="primary" onClick={() => onStart(t.map)} data-testid={`start-${t.id}`}>
              Start from this
            </Button>
          </div>
        ))}
        <div>
          <Button
            onClick={() =>
              onStart({
                stations: [
                  { id: 'control unit', x: 600, y: 600, group: 'body' },
                  { id: 'engine', x: 2400, y: 600, group: 'engine' },
                ],
                paths: [],
              })
            }
          >
            Start with two stations
          </Button>
        </div>
      </div>
    </div>
  );
}
