import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { KeysProvider } from '../parts/keys';
import { NoticeProvider } from '../parts/notice';
import { Themed } from './themed';

/** Renders a part as it stands in the application, at an address. */
export function renderInApp(part: ReactNode, at = '/') {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const router = createMemoryRouter([{ path: '*', element: part }], { initialEntries: [at] });
  const shown = render(
    <Themed>
      <QueryClientProvider client={queries}>
        <NoticeProvider>
          <KeysProvider>
            <RouterProvider router={router} />
          </KeysProvider>
        </NoticeProvider>
      </QueryClientProvider>
    </Themed>,
  );
  return { ...shown, router, queries };
}
