import { Button } from 'antd';
import { useRouteError } from 'react-router';

/** Stands in for a page that could not be fetched or drawn: what happened, that nothing was lost, and what to do. */
export function Failed() {
  const error = useRouteError();
  return (
    <main className="page problem" role="alert">
      <p>This page could not be shown. Nothing was lost: what you did is kept by Draxel.</p>
      <p className="quiet">{error instanceof Error ? error.message : 'It gave no reason.'}</p>
      <Button type="primary" onClick={() => window.location.reload()}>
        Load it again
      </Button>
    </main>
  );
}
