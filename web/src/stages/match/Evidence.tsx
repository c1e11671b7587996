import type { Reason } from '../../api/types.gen';

const bits = (b: number) => (b < 0 ? `−${(-b).toFixed(1)}` : `+${b.toFixed(1)}`);

/** Evidence as bars in bits: to the right of the line for, hatched to the left of it against. */
export function Evidence({ reasons }: { reasons: Reason[] }) {
  const shown = reasons.filter((r) => r.code !== 'prior');
  const most = Math.max(12, ...shown.map((r) => Math.abs(r.bits ?? 0)));
  return (
    <div>
      <svg width="0" height="0" style={{ position: 'absolute' }} aria-hidden="true">
        <pattern
          id="against"
          width="4"
          height="4"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="4" height="4" fill="var(--page)" />
          <rect width="1.8" height="4" fill="var(--ink)" />
        </pattern>
      </svg>
      {shown.map((r) => {
        const b = r.bits ?? 0;
        const length = (Math.abs(b) / most) * (b < 0 ? 40 : 78);
        return (
          <div key={r.code} className="evidence" title={r.source}>
            <strong>{r.code === 'veto' ? 'never' : r.code}</strong>
            <span className="mono">{r.code === 'veto' ? '' : bits(b)}</span>
            <svg width="122" height="10" aria-hidden="true">
              <path d="M42 0V10" stroke="var(--quiet)" strokeWidth="0.8" />
              <rect
                x={b < 0 ? 42 - length : 42}
                y="1.5"
                width={length}
                height="7"
                fill={b < 0 ? 'url(#against)' : 'var(--ink)'}
                stroke="var(--ink)"
                strokeWidth={b < 0 ? 0.7 : 0}
              />
            </svg>
            <span className="text">{r.text}</span>
          </div>
        );
      })}
      {reasons
        .filter((r) => r.code === 'prior')
        .map((r) => (
          <div key={r.code} className="quiet">
            {r.text} ({bits(r.bits ?? 0)})
          </div>
        ))}
    </div>
  );
}
