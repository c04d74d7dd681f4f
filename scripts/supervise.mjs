/**
 * Keeps a program running: starts it again when it ends by itself, and ends it for good when that
 * is wanted.
 */

/** Pauses before starting again, in milliseconds; each is twice the one before. */
const shortestPause = 500;
const longestPause = 30_000;
/** After this many ends, each soon after its start, there is no use in another one. */
const mostTries = 6;
/** A program that ran so long has started well. */
const startedWellAfter = 60_000;
/** Time to end by itself before it is killed. */
const timeToEnd = 10_000;

/**
 * @param startProgram starts the child process, which sends a message when it is ready
 * @param on `log` takes lines; `ready` is told of the first start only; `givenUp` is called when
 * starting again is no use
 * @returns `stop`, which ends the program for good, whatever state it is in
 */
export function supervise(startProgram, { log, ready, givenUp }) {
  let child;
  let ended = Promise.resolve();
  let timer;
  let isStopping = false;
  let tries = 0;
  let wasReady = false;

  function start() {
    const startedAt = Date.now();
    child = startProgram();
    const own = child;
    own.on('message', (message) => {
      if (!message.ready) return;
      if (wasReady) log('it answers again');
      else ready(message);
      wasReady = true;
    });
    ended = new Promise((resolve) => {
      own.once('error', (error) => resolve(error.message));
      own.once('exit', (code, signal) => resolve(signal ?? code));
    });
    void ended.then((how) => {
      child = undefined;
      if (isStopping) return;
      if (Date.now() - startedAt > startedWellAfter) tries = 0;
      tries += 1;
      log(`it ended (${how})`);
      // One that never answered is set up wrongly: the reason stands above.
      if (!wasReady || tries >= mostTries) return givenUp();
      const pause = Math.min(longestPause, shortestPause * 2 ** (tries - 1));
      log(`starting it again in ${pause / 1000} s`);
      timer = setTimeout(start, pause);
    });
  }
  start();

  return {
    async stop() {
      isStopping = true;
      clearTimeout(timer);
      if (!child) return;
      const own = child;
      own.kill('SIGTERM');
      const late = setTimeout(() => own.kill('SIGKILL'), timeToEnd);
      await ended;
      clearTimeout(late);
    },
  };
}
