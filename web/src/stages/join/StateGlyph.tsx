import type { Item } from '../../api/types.gen';

/** How a function stands, as a shape: a closed ring, a gap in it, a question, a stroke through, a dot. */
export function StateGlyph({ state }: { state: Item['state'] }) {
  return (
    <svg width="16" height="16" viewBox="0 0 16 16" className="stateglyph" role="img" aria-label={state}>
      {state === 'works on paper' && <path d="M3 8.5l3.5 3.5L13 4.5" />}
      {state === 'needs something' && <path d="M2 8h4.5M9.5 8H14M6.5 5v6M9.5 5v6" />}
      {state === 'open' && (
        <>
          <circle cx="8" cy="8" r="5.5" strokeDasharray="2.5 2" />
          <circle cx="8" cy="8" r="0.8" />
        </>
      )}
      {state === 'given up' && <path d="M2 8h5M9 5l4 6M13 5l-4 6" />}
      {state === 'not fitted' && <circle cx="8" cy="8" r="1" />}
    </svg>
  );
}
