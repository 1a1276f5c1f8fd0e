// Bundles the programs that run outside Next.js (command line, database admin, worker thread, benchmark) into .build/, and writes the
// hash of the core beside them: what was analysed by another core is analysed anew.
import { createHash } from 'node:crypto';
import { existsSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const root = fileURLToPath(new URL('..', import.meta.url));

/** Program name → its entry. */
const entries = {
  pazienza: 'src/cli/pazienza.ts',
  admin: 'src/server/admin.ts',
  web: 'src/server/web.ts',
  thread: 'src/workers/thread.ts',
  kill: 'tests/kill/kill.ts',
  doors: 'tests/doors/doors.ts',
  fuzz: 'tests/fuzz/fuzz.ts',
  bench: 'tests/bench/bench.ts',
  sweep: 'tests/bench/sweep.ts',
  plain: 'tests/bench/plain/plainSweep.ts',
};

await build({
  absWorkingDir: root,
  entryPoints: Object.fromEntries(Object.entries(entries).filter(([, path]) => existsSync(root + path))),
  outdir: '.build',
  outExtension: { '.js': '.cjs' },
  bundle: true,
  platform: 'node',
  format: 'cjs',
  target: 'node20',
  minifySyntax: true,
  sourcemap: 'linked',
  external: [
    'pg-native',
    '@duckdb/*',
    'papaparse',
    'next',
    'react',
    '@react-pdf/*',
    'sharp',
    'piscina',
    '@playwright/test',
  ],
  logLevel: 'warning',
});

// The service worker lies among the files that are given out as they are.
await build({
  absWorkingDir: root,
  entryPoints: { sw: 'src/workers/offline.ts' },
  outdir: 'public',
  bundle: true,
  minify: true,
  format: 'iife',
  target: 'es2022',
  define: { 'process.env.NODE_ENV': '"production"' },
  logLevel: 'warning',
});

const core = await build({
  absWorkingDir: root,
  entryPoints: ['src/core/diagnosis/diagnose.ts'],
  bundle: true,
  minify: true,
  write: false,
  format: 'esm',
  logLevel: 'warning',
});
writeFileSync(
  `${root}.build/core.hash`,
  createHash('sha256')
    .update(core.outputFiles[0]?.contents ?? '')
    .digest('hex')
    .slice(0, 16),
);
