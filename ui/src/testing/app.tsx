import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { createMemoryRouter, RouterProvider, useLocation } from 'react-router';
import { KeysProvider } from '../parts/keys';
import { NoticeProvider } from '../parts/notice';
import { Themed } from './themed';

/** Where a part has led to. */
function Elsewhere() {
  return <p data-elsewhere>{useLocation().pathname}</p>;
}

/** Renders a part as it stands in the application, at an address that a path says how to read. */
export function renderInApp(part: ReactNode, at = '/', path = '*') {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const elsewhere = path === '*' ? [] : [{ path: '*', element: <Elsewhere /> }];
  const router = createMemoryRouter([{ path, element: part }, ...elsewhere], {
    initialEntries: [at],
  });
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
