import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

declare const process: { env: Record<string, string | undefined> };

const server = `http://127.0.0.1:${process.env.ROOTCALL_PORT ?? '5180'}`;

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // The content security policy takes files of the application only, so nothing is inlined.
  build: { chunkSizeWarningLimit: 1100, assetsInlineLimit: 0 },
  // A busy machine is no failure.
  test: { setupFiles: ['src/testing/setup.ts'], testTimeout: 30_000 },
  server: {
    host: '127.0.0.1',
    port: 5183,
    // The server takes changes only from its own origin, so requests are passed on as if they came from there.
    proxy: Object.fromEntries(
      ['/api', '/hub', '/health', '/openapi'].map((path) => [
        path,
        { target: server, ws: true, changeOrigin: true, headers: { origin: server } },
      ]),
    ),
  },
});
