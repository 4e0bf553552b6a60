import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Tooltip } from 'radix-ui';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import { toast, Toaster } from 'sonner';
import { afterEach } from 'vitest';

afterEach(() => {
  toast.dismiss();
  cleanup();
});

/** Shows a part of the interface as the application would, and gives hands to use it with. */
export function show(node: ReactNode) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false }, mutations: { retry: false } } });
  render(
    <QueryClientProvider client={client}>
      <Tooltip.Provider>
        <MemoryRouter>
          {node}
          <Toaster />
        </MemoryRouter>
      </Tooltip.Provider>
    </QueryClientProvider>,
  );
  return userEvent.setup();
}
