import { useJournal } from '../api/hooks';
import { changeWord } from './changes.gen';
import { useTakeBack } from './useTakeBack';
import { When } from './When';

/** Who changed what and when, newest first. What was taken back is struck through; the rest can be, one by one. */
export function History({ job }: { job: string }) {
  const journal = useJournal(job);
  const { takeBack } = useTakeBack(job);
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
                  <td className="mono quiet">
                    <When ms={e.at} />
                  </td>
                  <td>{e.who}</td>
                  <td>
                    {changeWord[e.what] ?? e.what} {e.about}
                    {e.subjects > 1 && e.what !== 'create' && `, ${e.subjects} rows`}
                    {e.reason && <span className="quiet"> “{e.reason}”</span>}
                  </td>
                  <td className="right">
                    {e.back && (
                      <button className="plain" onClick={() => takeBack(e.seq)}>
                        take back
                      </button>
                    )}
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
