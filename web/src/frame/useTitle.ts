import { useEffect } from 'react';
import { useLocation, useSearchParams } from 'react-router';
import { stageName } from '../work/words';

/** Names the window, so that ten tabs can be told apart. */
export function useTitle(...parts: (string | undefined)[]) {
  const title = [...parts, 'Draxel'].filter(Boolean).join(' · ');
  useEffect(() => {
    document.title = title;
  }, [title]);
}

/** What of an address says which thing is looked at, the first that is there. */
const things = ['sel', 'row', 'wire', 'step', 'own', 'line', 'connector'];

/** Names the window of a job: what is looked at, the stage, the job. */
export function useJobTitle(job?: string) {
  const view = useLocation().pathname.split('/')[3] ?? '';
  const [address] = useSearchParams();
  const thing = things.map((t) => address.get(t)).find((x) => !!x);
  useTitle(thing?.replace(/^(from|to|system|wire):/, ''), view ? stageName(view) : 'Front', job);
}
