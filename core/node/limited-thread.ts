import type { Worker } from 'node:worker_threads';
import type { Ending, Helper } from './limited-helper';

/** A worker thread as a helper. Its memory can't be told from that of the process, which has to do nothing else meanwhile. */
export function threadHelper<Q, A>(worker: Worker): Helper<Q, A> {
  return {
    post: (request) => worker.postMessage(request),
    listen(onAnswer, onEnd) {
      const failed = (error: NodeJS.ErrnoException) =>
        onEnd(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? 'too-large' : ('reader-died' as Ending));
      const ended = () => onEnd('reader-died');
      worker.on('message', onAnswer).on('error', failed).on('exit', ended);
      return () => void worker.off('message', onAnswer).off('error', failed).off('exit', ended);
    },
    memory: () => process.memoryUsage.rss(),
    hold: (holds) => (holds ? worker.ref() : worker.unref()),
    async end() {
      worker.on('error', () => undefined);
      await worker.terminate();
    },
  };
}
