import { jsonBody, refuseForeign } from '@/server/request';
import { saveSystemDescription } from '@/server/saveDescription';
import { store } from '@/server/store';

/** Saves a system: `{ base, value }` → `{ version }`; 400 problems by field; 409 what was saved meanwhile. */
export async function PUT(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const { status, body } = await saveSystemDescription(store(), (await params).id, await jsonBody(request));
  return Response.json(body, { status });
}
