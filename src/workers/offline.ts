/**
 * The service worker: pages that are used where there is no network are kept with what they are made of. From the network first, from
 * what was kept when it does not answer. What is typed is not its business: the page keeps that itself.
 */

import { clientsClaim } from 'workbox-core';
import { registerRoute } from 'workbox-routing';
import { CacheFirst, NetworkFirst } from 'workbox-strategies';

import { OFFLINE_CACHES, worksOffline } from './offlinePages';

/** A page that has not come within this is taken as it was kept, s. */
const PATIENCE = 4;

registerRoute(
  ({ url, request }) => request.mode === 'navigate' && worksOffline(url.pathname),
  new NetworkFirst({ cacheName: OFFLINE_CACHES.pages, networkTimeoutSeconds: PATIENCE }),
);
// Built files never change under their name. The script of a web worker goes past: out of a cache it would lose what stands behind the #
// of its address, and with that what it has to load.
registerRoute(
  ({ url, request }) => url.pathname.startsWith('/_next/static/') && request.destination !== 'worker',
  new CacheFirst({ cacheName: OFFLINE_CACHES.parts }),
);

addEventListener('install', () => {
  void (globalThis as unknown as { skipWaiting(): Promise<void> }).skipWaiting();
});
clientsClaim();
