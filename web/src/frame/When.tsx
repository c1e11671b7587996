const two = (n: number) => String(n).padStart(2, '0');

/** The day of a moment where this browser stands: 2026-12-01. */
export function localDay(ms: number): string {
  const d = new Date(ms);
  return `${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}`;
}

/** The hour and minute of it too: 2026-12-01 08:41. */
export function localMinute(ms: number): string {
  const d = new Date(ms);
  return `${localDay(ms)} ${two(d.getHours())}:${two(d.getMinutes())}`;
}

/** Which zone that is, and how far it is from UTC at that moment. */
function zoneOf(ms: number): string {
  const minutes = -new Date(ms).getTimezoneOffset();
  const by = `${minutes < 0 ? '−' : '+'}${two(Math.floor(Math.abs(minutes) / 60))}:${two(Math.abs(minutes) % 60)}`;
  return `${Intl.DateTimeFormat().resolvedOptions().timeZone}, UTC${by}`;
}

/** A moment as it was here; held over, it says in which zone that is. */
export function When({ ms, day = false }: { ms: number; day?: boolean }) {
  return (
    <time dateTime={new Date(ms).toISOString()} title={`${localMinute(ms)}, ${zoneOf(ms)}`}>
      {day ? localDay(ms) : localMinute(ms)}
    </time>
  );
}
