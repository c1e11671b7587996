import type { Finding } from '../api/types.gen';

/** An address with what is asked of it; what is not said is left out. */
function address(path: string, asked: Record<string, string | undefined>): string {
  const said = Object.entries(asked).filter((e): e is [string, string] => !!e[1]);
  const query = said.map(([k, v]) => `${k}=${encodeURIComponent(v)}`).join('&');
  return query ? `${path}?${query}` : path;
}

/** Where a finding is seen to: the address below the job. Which part of the screen it is the finding says itself. */
export function findingPlace(f: Pick<Finding, 'stage' | 'side' | 'subject' | 'place'>): string {
  const { part, of, list, key } = f.place ?? {};
  switch (f.stage) {
    case 'gather':
      return address('gather', { part: part ?? 'lists' });
    case 'thin':
      return part
        ? address('thin', { part })
        : address('thin', { sel: `${of ?? 'wire'}:${f.subject ?? ''}` });
    case 'pin':
      return address('pin', { part, connector: part === 'faces' ? f.subject : undefined });
    case 'reach':
      return part
        ? address('reach', { part })
        : address('reach', { part: 'cuts', only: 'all', wire: f.subject });
    case 'feed':
      return part
        ? address('feed', { part, list })
        : address('feed', { part: 'live', key: key ?? 'running', sel: f.subject });
    case 'prove':
      return address('prove', { part: part ?? 'sheet' });
    case 'join':
      return f.subject ? address('join', { sel: f.subject }) : 'work';
    case 'work':
      return address('work', { own: f.subject });
  }
  return address('match', { row: `${f.side ?? 'from'} ${f.subject ?? ''}` });
}
