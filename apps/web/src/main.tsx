import './zod-without-eval.ts';
import './styles.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { type CSSProperties, StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { queryClient } from './data/query-client.ts';
import { reportFaults } from './data/report-faults.ts';
import { router } from './router.tsx';

/** Toasts in the theme's own ink and letters. */
const toastLook = {
  fontFamily: 'inherit',
  '--normal-bg': 'var(--color-neutral)',
  '--normal-text': 'var(--color-neutral-content)',
  '--normal-border': 'transparent',
  '--warning-bg': 'var(--color-neutral)',
  '--border-radius': '6px',
} as CSSProperties;

reportFaults();

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
      <Toaster position="bottom-center" offset={64} visibleToasts={3} duration={4_000} style={toastLook} />
    </QueryClientProvider>
  </StrictMode>,
);
