import { z } from 'zod';
import { jsonBody, refuseForeign } from '@/server/request';
import { store } from '@/server/store';
import { findRecipe } from '@/store/recipes';

/** Looks for a confirmed reading of logs with the same headings: `{ key }` → the recipe, or null. The key may be long, hence no GET. */
export async function POST(request: Request) {
  const refused = refuseForeign(request);
  if (refused) return refused;
  const asked = z.object({ key: z.string().max(1_000_000) }).safeParse(await jsonBody(request));
  return Response.json(asked.success ? await findRecipe(store(), asked.data.key) : null);
}
