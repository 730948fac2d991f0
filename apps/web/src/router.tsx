import { createBrowserRouter, Navigate } from 'react-router';
import { Guard } from './door/Guard.tsx';
import { LostPage } from './frame/LostPage.tsx';
import { orNotLoaded } from './frame/NotLoaded.tsx';
import { Opening, PlanFrame } from './frame/PlanFrame.tsx';
import { stages } from './stages/list.ts';

const doors = [
  { path: '/door', screen: async () => ({ Component: (await import('./door/DoorPage.tsx')).DoorPage }) },
  {
    path: '/door/first',
    screen: async () => ({ Component: (await import('./door/FirstPage.tsx')).FirstPage }),
  },
  {
    path: '/door/invited',
    screen: async () => ({ Component: (await import('./door/InvitedPage.tsx')).InvitedPage }),
  },
  {
    path: '/door/forgotten',
    screen: async () => ({ Component: (await import('./door/ResetPage.tsx')).ForgottenPage }),
  },
  {
    path: '/door/reset',
    screen: async () => ({ Component: (await import('./door/ResetPage.tsx')).ResetPage }),
  },
  {
    path: '/door/client',
    screen: async () => ({ Component: (await import('./stages/client/SharedPage.tsx')).SharedPage }),
  },
];

/** What only those see who are signed in. */
const inside = [
  {
    path: '/',
    lazy: orNotLoaded(async () => ({
      Component: (await import('./stages/plans/PlansPage.tsx')).PlansPage,
    })),
    hydrateFallbackElement: <Opening />,
    errorElement: <LostPage />,
  },
  {
    path: '/plans/:plan',
    element: <PlanFrame stages={stages} />,
    hydrateFallbackElement: <Opening />,
    errorElement: <LostPage />,
    children: [
      { index: true, element: <Navigate to="gather" replace /> },
      ...stages.map(({ path, screen }) => ({ path, lazy: orNotLoaded(screen) })),
    ],
  },
  {
    path: '/plans/:plan/client',
    lazy: orNotLoaded(async () => ({
      Component: (await import('./stages/client/ClientPage.tsx')).ClientPage,
    })),
    hydrateFallbackElement: <Opening />,
    errorElement: <LostPage />,
  },
  {
    path: '/people',
    lazy: orNotLoaded(async () => ({
      Component: (await import('./stages/people/PeoplePage.tsx')).PeoplePage,
    })),
    hydrateFallbackElement: <Opening />,
    errorElement: <LostPage />,
  },
  {
    path: '/you',
    lazy: orNotLoaded(async () => ({ Component: (await import('./stages/you/YouPage.tsx')).YouPage })),
    hydrateFallbackElement: <Opening />,
    errorElement: <LostPage />,
  },
  {
    path: '/how',
    lazy: orNotLoaded(async () => ({ Component: (await import('./stages/how/HowPage.tsx')).HowPage })),
    hydrateFallbackElement: <Opening />,
    errorElement: <LostPage />,
  },
  {
    path: '/variants',
    lazy: orNotLoaded(async () => ({
      Component: (await import('./stages/variants/VariantsPage.tsx')).VariantsPage,
    })),
    hydrateFallbackElement: <Opening />,
    errorElement: <LostPage />,
  },
  ...(import.meta.env.DEV
    ? [
        {
          path: '/gallery',
          lazy: orNotLoaded(async () => ({
            Component: (await import('./gallery/GalleryPage.tsx')).GalleryPage,
          })),
        },
      ]
    : []),
];

export const router = createBrowserRouter([
  ...doors.map(({ path, screen }) => ({
    path,
    lazy: orNotLoaded(screen),
    hydrateFallbackElement: <></>,
    errorElement: <LostPage />,
  })),
  { element: <Guard />, children: inside, hydrateFallbackElement: <></>, errorElement: <LostPage /> },
  { path: '*', element: <LostPage /> },
]);
