import react from '@vitejs/plugin-react';
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { defineConfig, type Plugin } from 'vite';

/** Writes the service worker of a build, which knows all its files by name. */
function serviceWorker(): Plugin {
  return {
    name: 'service-worker',
    apply: 'build',
    writeBundle({ dir }) {
      const files = readdirSync(dir!, { recursive: true, withFileTypes: true })
        .filter(
          (f) =>
            f.isFile() && !['index.html', 'simulator.html', 'sw.js', '.gitkeep'].includes(f.name),
        )
        .map((f) => `/${join(f.parentPath, f.name).slice(dir!.length + 1)}`)
        .sort();
      const page = readFileSync(join(dir!, 'index.html'));
      const build = createHash('sha256').update(page).digest('hex').slice(0, 16);
      const worker = readFileSync(new URL('sw.js', import.meta.url), 'utf8');
      writeFileSync(
        join(dir!, 'sw.js'),
        worker.replace('__BUILD__', build).replace(`['__FILES__']`, JSON.stringify(files)),
      );
    },
  };
}

// Nothing is inlined: the content security policy lets in only files of our own.
export default defineConfig({
  plugins: [react(), serviceWorker()],
  build: {
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 600,
    rolldownOptions: {
      // The application, and the page of the simulated machine.
      input: ['index.html', 'simulator.html'],
      output: {
        // Each room is a file of its own. What several rooms share lies in a few files rather
        // than in one for every part: a slow network pays for each.
        codeSplitting: {
          groups: [
            { name: 'libraries', test: /node_modules/, minShareCount: 4, priority: 2 },
            { name: 'words', test: /\/src\/words\//, priority: 1 },
            { name: 'parts', test: /\/src\/(parts|api|log|drafts|theme)\//, minShareCount: 3 },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8473' } },
});
