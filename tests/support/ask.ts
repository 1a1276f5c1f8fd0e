/** Asks a route handler as the web server would, without one. */

type Handler = (request: Request, context: { params: Promise<unknown> }) => Promise<Response>;

interface Asked {
  params?: Record<string, string>;
  query?: string;
  json?: unknown;
  body?: BodyInit;
}

/** @returns status, and the body as JSON where it is that */
export async function ask(
  handler: Handler,
  { params = {}, query = '', json, body }: Asked = {},
): Promise<{ status: number; body: unknown }> {
  const sent = json === undefined ? body : JSON.stringify(json);
  const request = new Request(`http://localhost/api${query}`, {
    method: sent === undefined ? 'GET' : 'POST',
    ...(sent === undefined ? {} : { body: sent }),
  });
  const answer = await handler(request, { params: Promise.resolve(params) });
  const text = await answer.text();
  try {
    return { status: answer.status, body: JSON.parse(text) as unknown };
  } catch {
    return { status: answer.status, body: text };
  }
}
