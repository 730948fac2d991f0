import { createBrowserRouter, Navigate } from 'react-router';
import { LostPage } from './frame/LostPage.tsx';
import { orNotLoaded } from './frame/NotLoaded.tsx';
import { Opening, PlanFrame } from './frame/PlanFrame.tsx';
import { stages } from './stages/list.ts';

export const router = createBrowserRouter([
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
  { path: '*', element: <LostPage /> },
]);
