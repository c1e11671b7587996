import { Link, useLocation } from 'react-router';

/** Stands where a link leads to nothing: it says so, and where one can go. */
export function NoSuchPage() {
  const [, , job, ...rest] = useLocation().pathname.split('/');
  return (
    <main className="page empty" role="alert">
      <h1>There is no such page</h1>
      <p>
        {job && rest.length > 0
          ? `This job has no page “${rest.join('/')}”.`
          : 'The address leads to no page of Draxel.'}
      </p>
      <p>
        {job && rest.length > 0 && (
          <>
            <Link to={`/jobs/${job}`}>The front page of the job</Link>
            {' · '}
          </>
        )}
        <Link to="/">All jobs</Link>
      </p>
    </main>
  );
}
