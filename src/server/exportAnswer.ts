/** A file that is given out piece by piece, as it is made. */

import { heavy } from './heavy';
import type { Exported } from './exportRecording';

/**
 * Files take turns: one counts as being given out until its last piece was fetched, or whoever fetched it has gone.
 * @throws Refusal
 */
export function fileAnswer(make: () => Promise<Exported>): Promise<Response> {
  return new Promise((resolve, reject) => {
    void heavy(async () => {
      let file: Exported;
      try {
        file = await make();
      } catch (error) {
        return reject(error);
      }
      const { body, over } = streamed(file.body);
      resolve(
        new Response(body, {
          headers: {
            'content-type': file.type,
            'content-disposition': `attachment; filename="${file.fileName}"`,
            'cache-control': 'no-store',
          },
        }),
      );
      await over;
    });
  });
}

function streamed(body: Exported['body']) {
  const pieces = (async function* () {
    yield* body;
  })();
  let end = () => {};
  const over = new Promise<void>((done) => (end = done));
  return {
    over,
    body: new ReadableStream<Uint8Array>({
      async pull(controller) {
        try {
          const { done, value } = await pieces.next();
          // Between pieces other requests have their turn.
          await new Promise((next) => setImmediate(next));
          if (!done) return controller.enqueue(value);
          controller.close();
        } catch (error) {
          controller.error(error);
        }
        end();
      },
      async cancel() {
        end();
        await pieces.return();
      },
    }),
  };
}
