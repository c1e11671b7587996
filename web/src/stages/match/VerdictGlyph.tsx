import type { Line } from '../../api/types.gen';

type Verdict = Line['verdict'];

export const verdictWord: Record<Verdict, string> = {
  stays: 'stays',
  moves: 'moves',
  'moves-connector': 'to plug',
  goes: 'goes',
  'needs-source': 'needs a source',
  undecided: 'undecided',
  'needs-wire': 'needs a wire',
  'left-empty': 'left empty',
  meets: 'joined',
  plugged: 'plugged',
  'new-wire': 'new wire',
  joins: 'joins',
  branches: 'branches',
};

/**
 * What happens to the wire between its two terminals, as a shape that reads at 14 px: straight (stays), bent (moves), bent
 * into a square (to another plug), cut short (goes), open at both ends (undecided), into a ringed plus (needs a source),
 * dashed from the right (needs a wire), a struck ring (left empty), into another wire (joins), out of another (branches),
 * two ends under one dot (joined onto a wire that stays), two posts face to face (plugged), dashed from a dot (new wire).
 */
export function VerdictGlyph({ verdict }: { verdict: Verdict }) {
  const wire = { fill: 'none', stroke: 'currentColor', strokeWidth: 1.7 };
  return (
    <svg width="60" height="20" viewBox="0 0 60 20" aria-hidden="true" style={{ flex: 'none' }}>
      {['stays', 'moves', 'moves-connector', 'goes', 'needs-source'].includes(verdict) && (
        <circle
          cx="4"
          cy={verdict === 'moves' || verdict === 'moves-connector' ? 5 : 10}
          r="3"
          fill="currentColor"
        />
      )}
      {verdict === 'stays' && (
        <>
          <path d="M4 10H56" {...wire} />
          <circle cx="56" cy="10" r="3" fill="currentColor" />
        </>
      )}
      {(verdict === 'moves' || verdict === 'moves-connector') && (
        <>
          <path d="M4 5H20C32 5 28 15 40 15H54" {...wire} />
          {verdict === 'moves' ? (
            <circle cx="56" cy="15" r="3" fill="currentColor" />
          ) : (
            <rect x="52" y="11" width="7" height="8" fill="currentColor" />
          )}
        </>
      )}
      {verdict === 'goes' && <path d="M4 10H32M32 4V16M37 6V14M41 8V12" {...wire} />}
      {verdict === 'needs-source' && (
        <>
          <path d="M4 10H26" {...wire} />
          <circle cx="33" cy="10" r="6.5" {...wire} />
          <path d="M29.5 10H36.5M33 6.5V13.5" {...wire} />
        </>
      )}
      {verdict === 'undecided' && (
        <>
          <circle cx="4" cy="10" r="2.8" {...wire} />
          <path d="M7 10H20M40 10H53" {...wire} />
          <circle cx="56" cy="10" r="2.8" {...wire} />
          <text x="30" y="15" textAnchor="middle" fontSize="15" fontWeight="700" fill="currentColor">
            ?
          </text>
        </>
      )}
      {verdict === 'needs-wire' && (
        <>
          <path d="M26 10H53" {...wire} strokeDasharray="5 3" />
          <circle cx="56" cy="10" r="2.8" {...wire} />
        </>
      )}
      {verdict === 'meets' && (
        <>
          <path d="M4 10H56" {...wire} />
          <circle cx="4" cy="10" r="2.8" {...wire} />
          <circle cx="56" cy="10" r="2.8" {...wire} />
          <path d="M30 3 37 10 30 17 23 10Z" fill="currentColor" />
        </>
      )}
      {verdict === 'plugged' && (
        <path d="M4 10H24M24 4V16M36 4V16M36 10H56M24 7H30M24 13H30M30 4V16" {...wire} />
      )}
      {verdict === 'new-wire' && (
        <>
          <circle cx="12" cy="10" r="3" fill="currentColor" />
          <path d="M15 10H53" {...wire} strokeDasharray="5 3" />
          <circle cx="56" cy="10" r="3" fill="currentColor" />
        </>
      )}
      {verdict === 'joins' && <path d="M4 5H22L36 14M4 14H56" {...wire} />}
      {verdict === 'branches' && <path d="M4 14H56M24 14 38 5H56" {...wire} />}
      {verdict === 'left-empty' && (
        <>
          <circle cx="52" cy="10" r="6" {...wire} />
          <path d="M47.5 14.5 56.5 5.5" {...wire} />
        </>
      )}
    </svg>
  );
}
