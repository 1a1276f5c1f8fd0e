import { store } from '@/server/store';
import { through } from '@/server/through';
import { findRecipe } from '@/store/recipes';

/** Looks for a confirmed reading of logs with the same headings: `{ key }` → the recipe, or null. The key may be long, hence no GET. */
export const POST = through('POST /api/recipes', ({ json }) => findRecipe(store(), json.key));
