import '@fontsource-variable/atkinson-hyperlegible-mono';
import '@fontsource-variable/atkinson-hyperlegible-next';
import './styles.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { App as AntApp, ConfigProvider } from 'antd';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { ProblemError } from './api/client';
import { Failed } from './frame/Failed';
import { Frame } from './frame/Frame';
import { JobsPage } from './frame/JobsPage';
import { PassGate } from './frame/PassGate';
import { useTheme } from './theme';

const client = new QueryClient({
  defaultOptions: {
    queries: {
      refetchOnWindowFocus: false,
      retry: (count, error) => count < 2 && !(error instanceof ProblemError && error.problem.status >= 400),
    },
  },
});

const router = createBrowserRouter([
  { path: '/', element: <JobsPage /> },
  {
    path: '/jobs/:job',
    element: <Frame />,
    errorElement: <Failed />,
    hydrateFallbackElement: <></>,
    children: [
      {
        errorElement: <Failed />,
        children: [
          { index: true, lazy: async () => ({ Component: (await import('./frame/FrontPage')).FrontPage }) },
          {
            path: 'gather',
            lazy: async () => ({ Component: (await import('./stages/gather/GatherPage')).GatherPage }),
          },
          {
            path: 'match',
            lazy: async () => ({ Component: (await import('./stages/match/MatchPage')).MatchPage }),
          },
          {
            path: 'thin',
            lazy: async () => ({ Component: (await import('./stages/thin/ThinPage')).ThinPage }),
          },
          { path: 'pin', lazy: async () => ({ Component: (await import('./stages/pin/PinPage')).PinPage }) },
          {
            path: 'reach',
            lazy: async () => ({ Component: (await import('./stages/reach/ReachPage')).ReachPage }),
          },
          {
            path: 'feed',
            lazy: async () => ({ Component: (await import('./stages/feed/FeedPage')).FeedPage }),
          },
          {
            path: 'join',
            lazy: async () => ({ Component: (await import('./stages/join/JoinPage')).JoinPage }),
          },
          {
            path: 'prove',
            lazy: async () => ({ Component: (await import('./stages/prove/ProvePage')).ProvePage }),
          },
          {
            path: 'handover',
            lazy: async () => ({
              Component: (await import('./stages/handover/HandoverPage')).HandoverPage,
            }),
          },
          { path: 'work', lazy: async () => ({ Component: (await import('./work/WorkPage')).WorkPage }) },
        ],
      },
    ],
  },
  {
    path: '/jobs/:job/trainer',
    errorElement: <Failed />,
    hydrateFallbackElement: <></>,
    lazy: async () => ({ Component: (await import('./stages/prove/TrainerPage')).TrainerPage }),
  },
  {
    path: '/jobs/:job/bench',
    errorElement: <Failed />,
    hydrateFallbackElement: <></>,
    lazy: async () => ({ Component: (await import('./bench/BenchPage')).BenchPage }),
  },
  { path: '*', element: <Navigate to="/" replace /> },
]);

// While a page is being fetched the whole document says so: a line at the top shows it where that takes long.
router.subscribe((s) => document.documentElement.classList.toggle('going', s.navigation.state !== 'idle'));

function Draxel() {
  return (
    <ConfigProvider theme={useTheme()} wave={{ disabled: true }}>
      <AntApp component={false} message={{ duration: 4 }}>
        <PassGate>
          <RouterProvider router={router} />
        </PassGate>
      </AntApp>
    </ConfigProvider>
  );
}

const root = document.getElementById('root');
if (!root) {
  throw new Error('the page has no root');
}
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <Draxel />
    </QueryClientProvider>
  </StrictMode>,
);
