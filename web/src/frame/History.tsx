import { useJournal } from '../api/hooks';
import { changeWord } from './changes.gen';

const minute = (ms: number) => new Date(ms).toISOString().slice(0, 16).replace('T', ' ');

/** Who changed what and when, newest first. What was taken back is struck through. */
export function History({ job }: { job: string }) {
  const journal = useJournal(job);
  return (
    <section>
      <h3>History</h3>
      <div style={{ maxHeight: 150, overflowY: 'auto' }} tabIndex={0} aria-label="history">
        <table className="table">
          <tbody>
            {journal.data?.pages
              .flatMap((p) => p.entries)
              .map((e) => (
                <tr key={e.seq} style={{ textDecoration: e.undone ? 'line-through' : undefined }}>
                  <td className="mono quiet">{minute(e.at)}</td>
                  <td>{e.who}</td>
                  <td>
                    {changeWord[e.what] ?? e.what} {e.about}
                    {e.subjects > 1 && e.what !== 'create' && `, ${e.subjects} rows`}
                    {e.reason && <span className="quiet"> “{e.reason}”</span>}
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
        {journal.hasNextPage && (
          <button className="plain" onClick={() => void journal.fetchNextPage()}>
            earlier
          </button>
        )}
      </div>
    </section>
  );
}
