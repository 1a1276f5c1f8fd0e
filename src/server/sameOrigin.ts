/** Requests that change something must come from the application's own pages. */

export function refuseForeign(request: Request): Response | null {
  const site = request.headers.get('sec-fetch-site');
  if (site === null || site === 'same-origin' || site === 'none') return null;
  return Response.json({ error: 'This request came from another site and was refused.' }, { status: 403 });
}
