import type { Finding } from '../api/types.gen';

type Severity = Finding['severity'];

export const severityWord: Record<Severity, string> = {
  danger: 'danger',
  wrong: 'wrong',
  check: 'to check',
  note: 'notes',
};

/** A shape of its own for each severity, which reads at 14 px and in a photocopy. */
export function SeverityMark({ severity }: { severity: Severity }) {
  const line = { fill: 'none', stroke: 'currentColor', strokeWidth: 1.5 };
  return (
    <svg
      width="14"
      height="14"
      viewBox="0 0 14 14"
      aria-hidden="true"
      style={{ flex: 'none', verticalAlign: '-2px' }}
    >
      {severity === 'danger' && <path d="M7 1 13.4 12.8H.6Z" fill="currentColor" />}
      {severity === 'wrong' && (
        <>
          <rect x="1.2" y="1.2" width="11.6" height="11.6" {...line} />
          <path d="M4 4 10 10M10 4 4 10" {...line} />
        </>
      )}
      {severity === 'check' && (
        <>
          <circle cx="7" cy="7" r="5.8" {...line} />
          <path d="M7 3.6V8M7 9.4V10.8" {...line} />
        </>
      )}
      {severity === 'note' && <path d="M2 3.5H12M2 7H12M2 10.5H8" {...line} />}
    </svg>
  );
}
