import { Link, Navigate } from 'react-router';
import { lastBench } from './offline';

/** Where the icon on a home screen leads: the bench that was used last on this device. */
export function LastBench() {
  const last = lastBench();
  return last ? (
    <Navigate to={last} replace />
  ) : (
    <main className="page">
      <h1>No bench has been used on this device yet</h1>
      <p>
        Scan the QR of a bench at the desk, or choose <Link to="/">a job</Link>.
      </p>
    </main>
  );
}
