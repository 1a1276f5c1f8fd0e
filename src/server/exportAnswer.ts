/** A file that is given out piece by piece, as it is made. */

import { giving } from './heavy';
import type { Exported } from './exportRecording';

/**
 * Files take turns: one counts as being given out until its last piece was fetched, or whoever fetched it has gone.
 * @throws Refusal
 */
export function fileAnswer(make: () => Promise<Exported>): Promise<Response> {
  return new Promise((resolve, reject) => {
    giving(async () => {
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
    }).catch(reject);
  });
}

/** How long a piece waits to be fetched before its file is taken back, ms. */
const PATIENCE = 60_000;

function streamed(body: Exported['body']) {
  const pieces = (async function* () {
    yield* body;
  })();
  let close = () => {};
  const over = new Promise<void>((resolve) => (close = resolve));
  let waiting: ReturnType<typeof setTimeout>;
  const end = () => {
    clearTimeout(waiting);
    close();
  };
  const left = (controller: ReadableStreamDefaultController) => {
    controller.error(new Error('Nobody fetched the file.'));
    end();
    void pieces.return();
  };
  return {
    over,
    body: new ReadableStream<Uint8Array>({
      start(controller) {
        // Nobody may ever come for the first piece.
        waiting = setTimeout(() => left(controller), PATIENCE);
      },
      async pull(controller) {
        clearTimeout(waiting);
        try {
          const { done, value } = await pieces.next();
          // Between pieces other requests have their turn.
          await new Promise((next) => setImmediate(next));
          if (!done) {
            waiting = setTimeout(() => left(controller), PATIENCE);
            return controller.enqueue(value);
          }
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
