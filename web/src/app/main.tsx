import '~/app/theme.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { RouterProvider } from '@tanstack/react-router';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { queryClient } from '~/api/query-client';
import { router } from '~/app/router';
import { applyTheme, readTheme } from '~/app/theme';
import { keepShell } from '~/offline/shell';

applyTheme(readTheme());
void keepShell();
const root = document.getElementById('root');
if (!root) throw new Error('The page has no #root to draw in.');
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
