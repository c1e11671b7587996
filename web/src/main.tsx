import '@fontsource-variable/atkinson-hyperlegible-mono';
import '@fontsource-variable/atkinson-hyperlegible-next';
import './styles.css';
import './frame/frame.css';
import './frame/small.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { ConfigProvider } from 'antd';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { ProblemError } from './api/client';
import { copyRows, printWhole } from './frame/copyRows';
import { keepDrafts } from './frame/drafts';
import { dropFiles } from './frame/dropFiles';
import { Failed } from './frame/Failed';
import { Frame } from './frame/Frame';
import { later, moment } from './frame/later';
import { PassGate } from './frame/PassGate';
import { StagesProvider } from './frame/stages';
import { stages } from './stages';
import { markLetters } from './keys/letters';
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
  {
    path: '/',
    errorElement: <Failed />,
    hydrateFallbackElement: <></>,
    lazy: async () => ({ Component: (await import('./frame/JobsPage')).JobsPage }),
  },
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
          ...stages.map(({ name, page }) => ({
            path: name,
            lazy: async () => ({ Component: await page() }),
          })),
          { path: 'work', lazy: async () => ({ Component: (await import('./work/WorkPage')).WorkPage }) },
          {
            path: '*',
            hydrateFallbackElement: <></>,
            lazy: async () => ({ Component: (await import('./frame/NoSuchPage')).NoSuchPage }),
          },
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
    path: '/bench',
    hydrateFallbackElement: <></>,
    lazy: async () => ({ Component: (await import('./bench/LastBench')).LastBench }),
  },
  {
    path: '/jobs/:job/bench',
    errorElement: <Failed />,
    hydrateFallbackElement: <></>,
    lazy: async () => ({ Component: (await import('./bench/BenchPage')).BenchPage }),
  },
  {
    path: '*',
    hydrateFallbackElement: <></>,
    lazy: async () => ({ Component: (await import('./frame/NoSuchPage')).NoSuchPage }),
  },
]);

// Where what is said in passing and what is asked appears.
const Noticing = later(async () => (await import('./frame/Noticing')).Noticing, moment);

// While a page is being fetched the whole document says so: a line at the top shows it where that takes long.
router.subscribe((s) => document.documentElement.classList.toggle('going', s.navigation.state !== 'idle'));

function Draxel() {
  return (
    <ConfigProvider theme={useTheme()} wave={{ disabled: true }}>
      <PassGate>
        <StagesProvider value={stages}>
          <RouterProvider router={router} />
        </StagesProvider>
      </PassGate>
      <Noticing />
    </ConfigProvider>
  );
}

keepDrafts();
markLetters();
copyRows();
printWhole();
dropFiles();
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
