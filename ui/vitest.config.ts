import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

// A day is that of the person at the wheel: where tests run at Greenwich time a slip of a day
// would not be seen.
process.env.TZ = 'America/Denver';

export default defineConfig({
  plugins: [react()],
  test: {
    environment: 'jsdom',
    setupFiles: ['src/testing/setup.ts'],
    include: ['src/**/*.test.{ts,tsx}'],
    // Machines that run this may be busy; nothing here measures time.
    testTimeout: 60_000,
    // By default one core is left free, which on a machine of two is half of it.
    maxWorkers: '100%',
    restoreMocks: true,
    unstubGlobals: true,
  },
});
