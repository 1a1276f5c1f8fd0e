import { defineConfig } from '@playwright/test';

/** End-to-end tests against the built application; bin/test starts it with a database of its own and sets BASE_URL. */
export default defineConfig({
  testDir: 'tests/e2e',
  globalSetup: './tests/support/keepMade.mjs',
  workers: 2,
  // A busy machine of two cores takes its time; what hangs is found all the same.
  timeout: 120_000,
  expect: { timeout: 15_000 },
  reporter: [['list'], ['json', { outputFile: '.build/playwright.json' }]],
  use: {
    baseURL: process.env.BASE_URL ?? 'http://127.0.0.1:3000',
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        ...(process.getuid?.() === 0 ? ['--no-sandbox'] : []),
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        // The pages of the address bar's lists, drawn for every window and never seen. What comes last holds, so what Playwright turns off
        // by itself and matters to us stands here again.
        '--disable-features=WebUIOmniboxPopup,WebUIOmniboxAimPopup,AvoidUnnecessaryBeforeUnloadCheckSync,DestroyProfileOnBrowserClose,HttpsUpgrades,HttpsFirstBalancedModeAutoEnable,PaintHolding,ThirdPartyStoragePartitioning,AvoidCorsURLLoaderRestartOnRedirect,MediaRouter,LensOverlay,OptimizationHints,NetworkTimeServiceQuerying,AimEnabled,PreconnectToSearch',
      ],
    },
  },
});
