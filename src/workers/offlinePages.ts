/** Pages that work while the network is away. The service worker and the pages agree on them here. */

export const OFFLINE_CACHES = { pages: 'pazienza-pages', parts: 'pazienza-parts' } as const;

export const worksOffline = (path: string): boolean =>
  /^\/systems\/[0-9a-f-]{36}\/(hydrometer|capacity)$/.test(path) ||
  /^\/jobs\/[0-9a-f-]{36}\/on-site$/.test(path);

/** Keeps this page with its parts, so that it opens without the network. @returns whether it does */
export async function keepThisPage(): Promise<boolean> {
  if (!('serviceWorker' in navigator) || !('caches' in window)) return false;
  const here = window.location.pathname;
  const pages = await caches.open(OFFLINE_CACHES.pages);
  try {
    await navigator.serviceWorker.register('/sw.js');
    await navigator.serviceWorker.ready;
    const parts = performance
      .getEntriesByType('resource')
      .map((one) => one.name)
      .filter((url) => new URL(url).pathname.startsWith('/_next/static/'));
    const kept = await caches.open(OFFLINE_CACHES.parts);
    await Promise.all([
      pages.add(here),
      ...parts.map(async (url) => (await kept.match(url)) ?? kept.add(url)),
    ]);
  } catch {
    // Away from the network it is as it was kept.
  }
  return (await pages.match(here, { ignoreVary: true })) !== undefined;
}
