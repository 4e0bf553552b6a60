import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { Tooltip } from 'radix-ui';
import { useEffect, useState } from 'react';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import { Toaster } from 'sonner';
import { listen } from './api/live';
import { Arrivals } from './stages/arrivals/Arrivals';
import { Bench } from './stages/bench/Bench';
import { Crossing } from './stages/crossing/Crossing';
import { Findings } from './stages/findings/Findings';
import { Muster } from './stages/muster/Muster';
import { NoPlace } from './stages/NoPlace';
import { SendOff } from './stages/sendoff/SendOff';

export function App() {
  const [client] = useState(
    () =>
      new QueryClient({
        defaultOptions: { queries: { staleTime: 30_000, retry: 1, refetchOnWindowFocus: false } },
      }),
  );
  useEffect(() => listen(client), [client]);
  return (
    <QueryClientProvider client={client}>
      <Tooltip.Provider delayDuration={400}>
        <BrowserRouter>
          <Routes>
            <Route path="/arrivals/:sceneId?" element={<Arrivals />} />
            <Route path="/muster/:sceneId" element={<Muster />} />
            <Route path="/findings/:sceneId" element={<Findings />} />
            <Route path="/bench/:sceneId" element={<Bench />} />
            <Route path="/crossing/:sceneId" element={<Crossing />} />
            <Route path="/send-off/:sceneId" element={<SendOff />} />
            <Route path="/" element={<Navigate to="/arrivals" replace />} />
            <Route path="*" element={<NoPlace />} />
          </Routes>
        </BrowserRouter>
        <Toaster
          position="bottom-right"
          offset={{ bottom: 50, right: 28 }}
          toastOptions={{
            style: {
              background: '#111',
              color: '#f0f0f0',
              border: '1px solid #6e6e6e',
              borderRadius: 2,
              font: '430 13px/18px var(--rc-sans)',
            },
          }}
        />
      </Tooltip.Provider>
    </QueryClientProvider>
  );
}
