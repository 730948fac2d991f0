import { createBrowserRouter, Navigate } from 'react-router';
import { LostPage } from './frame/LostPage.tsx';
import { PlanFrame } from './frame/PlanFrame.tsx';
import { BriefStage } from './stages/brief/BriefStage.tsx';
import { BuildStage } from './stages/build/BuildStage.tsx';
import { GatherStage } from './stages/gather/GatherStage.tsx';
import { MixStage } from './stages/mix/MixStage.tsx';
import { PlansPage } from './stages/plans/PlansPage.tsx';
import { PruneStage } from './stages/prune/PruneStage.tsx';
import { ShipStage } from './stages/ship/ShipStage.tsx';
import { SortStage } from './stages/sort/SortStage.tsx';
import { VariantsPage } from './stages/variants/VariantsPage.tsx';
import { WriteStage } from './stages/write/WriteStage.tsx';

export const router = createBrowserRouter([
  { path: '/', element: <PlansPage />, errorElement: <LostPage /> },
  {
    path: '/plans/:plan',
    element: <PlanFrame />,
    errorElement: <LostPage />,
    children: [
      { index: true, element: <Navigate to="gather" replace /> },
      { path: 'brief', element: <BriefStage /> },
      { path: 'gather', element: <GatherStage /> },
      { path: 'mix', element: <MixStage /> },
      { path: 'prune', element: <PruneStage /> },
      { path: 'sort', element: <SortStage /> },
      { path: 'build', element: <BuildStage /> },
      { path: 'write', element: <WriteStage /> },
      { path: 'ship', element: <ShipStage /> },
    ],
  },
  { path: '/variants', element: <VariantsPage />, errorElement: <LostPage /> },
  { path: '*', element: <LostPage /> },
]);
