import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { lazy, Suspense } from 'react';
import type { RouteObject } from 'react-router';
import { createBrowserRouter, Navigate, RouterProvider, useParams } from 'react-router';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { WhyProvider } from '../why/why-context.tsx';
import { ApiError, wordsOf } from './api.ts';
import { NoticeProvider } from './notices.tsx';
import { PageError } from './PageError.tsx';
import { useSession } from './session.ts';
import { Shell } from './Shell.tsx';

const SignIn = lazy(() => import('../features/session/SignIn.tsx').then(({ SignIn }) => ({ default: SignIn })));
const Found = lazy(() => import('../features/session/Found.tsx').then(({ Found }) => ({ default: Found })));
const Join = lazy(() => import('../features/session/Join.tsx').then(({ Join }) => ({ default: Join })));
const Tonight = lazy(() => import('../features/tonight/route.tsx'));
const Watch = lazy(() => import('../features/watch/route.tsx'));
const Season = lazy(() => import('../features/season/route.tsx'));
const WhatIf = lazy(() => import('../features/season/WhatIfPage.tsx'));
const Projects = lazy(() => import('../features/projects/route.tsx'));
const ProjectPage = lazy(() => import('../features/project/route.tsx'));
const Delivery = lazy(() => import('../features/delivery/route.tsx'));
const Finder = lazy(() => import('../features/finder/route.tsx'));
const Framing = lazy(() => import('../features/framing/route.tsx'));
const Ledger = lazy(() => import('../features/ledger/route.tsx'));
const Exposure = lazy(() => import('../features/ledger/ExposurePage.tsx'));
const Imports = lazy(() => import('../features/imports/route.tsx'));
const Members = lazy(() => import('../features/members/route.tsx'));
const Depth = lazy(() => import('../features/depth/route.tsx'));
const Standing = lazy(() => import('../features/standing/route.tsx'));
const Visits = lazy(() => import('../features/visits/route.tsx'));
const Messages = lazy(() => import('../features/messages/route.tsx'));
const Help = lazy(() => import('../features/help/route.tsx'));
const Review = lazy(() => import('../features/review/route.tsx'));
const Calibration = lazy(() => import('../features/calibration/route.tsx'));
const TimeAccount = lazy(() => import('../features/time-account/route.tsx'));
const Observatory = lazy(() => import('../features/observatory/route.tsx'));

const retry = (failures: number, error: Error): boolean =>
  failures < 2 && !(error instanceof ApiError && error.code !== 'OFFLINE' && error.code !== 'NOT_READY');
const queryClient = new QueryClient({
  defaultOptions: { queries: { retry, staleTime: 5_000, refetchOnWindowFocus: true } },
});

const KeyedProject = () => <ProjectPage key={useParams().id} />;

const KeyedExposure = () => <Exposure key={useParams().id} />;

const Door = ({ page }: { page: ReactNode }) => (
  <Suspense fallback={<Loading what="Meridiem" rows={3} />}>{page}</Suspense>
);

const router = createBrowserRouter([
  { path: '/join/:token', element: <Door page={<Join />} />, errorElement: <PageError /> },
  { path: '/found/:token', element: <Door page={<Found />} />, errorElement: <PageError /> },
  {
    path: '/',
    element: <Entrance />,
    errorElement: <PageError />,
    children: pages([
      { index: true, element: <Navigate to="/tonight" replace /> },
      { path: 'tonight', element: <Tonight /> },
      { path: 'nights/:nightDate', element: <Tonight /> },
      { path: 'nights/:nightDate/watch', element: <Watch /> },
      { path: 'season', element: <Season /> },
      { path: 'season/what-if', element: <WhatIf /> },
      { path: 'projects', element: <Projects /> },
      { path: 'projects/:id', element: <KeyedProject /> },
      { path: 'projects/:id/files', element: <Delivery /> },
      { path: 'projects/:id/depth', element: <Depth /> },
      { path: 'finder', element: <Finder /> },
      { path: 'framing', element: <Framing /> },
      { path: 'ledger', element: <Ledger /> },
      { path: 'exposures/:id', element: <KeyedExposure /> },
      { path: 'imports', element: <Imports /> },
      { path: 'imports/:id', element: <Imports /> },
      { path: 'review', element: <Review /> },
      { path: 'time', element: <TimeAccount /> },
      { path: 'calibration', element: <Calibration /> },
      { path: 'standing', element: <Standing /> },
      { path: 'visits', element: <Visits /> },
      { path: 'messages', element: <Messages /> },
      { path: 'help', element: <Help /> },
      { path: 'help/:guide', element: <Help /> },
      { path: 'members', element: <Members /> },
      { path: 'observatory', element: <Observatory /> },
      { path: '*', element: <Empty title="There is no page at this address.">The pages are in the line above.</Empty> },
    ]),
  },
]);

/** Each page fails for itself: the line of pages above it stays. */
function pages(routes: RouteObject[]): RouteObject[] {
  return routes.map((route) => ({ ...route, errorElement: <PageError /> }));
}

/** The shell for members, the door for everyone else. */
function Entrance() {
  const { data, error, isPending, refetch } = useSession();
  if (isPending) return <Loading what="Meridiem" rows={3} />;
  if (error) return <Failure words={wordsOf(error)} onRetry={() => void refetch()} />;
  return data.account ? <Shell account={data.account} /> : <Door page={<SignIn demoAccounts={data.demoAccounts} />} />;
}

export const App = () => (
  <QueryClientProvider client={queryClient}>
    <NoticeProvider>
      <WhyProvider>
        <RouterProvider router={router} />
      </WhyProvider>
    </NoticeProvider>
  </QueryClientProvider>
);
