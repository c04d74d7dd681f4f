import { WholeProof } from '@ukiyo/contracts';
import { onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { ApiError, ask, messageOf } from '../parts/api.ts';
import { useSession } from '../parts/session.ts';

/** The pages of a PDF. */
export interface PageFile {
  /** Draws a page, counted from 1, as wide as the canvas is on the screen. */
  draw(page: number, canvas: HTMLCanvasElement): Promise<void>;
  close(): void;
}
export interface WholeManual {
  readonly proof: WholeProof;
  readonly file: PageFile;
}

/**
 * Opens a PDF with the program that draws it in the page; it is fetched when it is needed for the
 * first time.
 */
async function openPages(bytes: ArrayBuffer): Promise<PageFile> {
  const [{ getDocument, GlobalWorkerOptions, RenderingCancelledException }, { default: worker }] =
    await Promise.all([import('pdfjs-dist'), import('pdfjs-dist/build/pdf.worker.min.mjs?url')]);
  GlobalWorkerOptions.workerSrc = worker;
  const loading = getDocument({ data: bytes });
  const file = await loading.promise;
  /** What is being drawn on each canvas: it can take one drawing at a time. */
  const drawing = new WeakMap<HTMLCanvasElement, { cancel(): void }>();
  return {
    async draw(number, canvas) {
      const page = await file.getPage(number);
      const natural = page.getViewport({ scale: 1 });
      const viewport = page.getViewport({
        scale: (canvas.clientWidth * window.devicePixelRatio) / natural.width,
      });
      canvas.width = viewport.width;
      canvas.height = viewport.height;
      drawing.get(canvas)?.cancel();
      const task = page.render({ canvas, viewport });
      drawing.set(canvas, task);
      await task.promise.catch((error: unknown) => {
        if (!(error instanceof RenderingCancelledException)) throw error;
      });
    },
    close: () => void loading.destroy(),
  };
}

/** How long one rests before the whole is set again with what was changed, in milliseconds. */
const rest = 2500;

/**
 * A whole manual as an edition gives it from what is stored, set again when one rests.
 * @param changes counts what is changed in the text
 */
export function useWholeManual(edition: () => string, item: () => string, changes: () => number) {
  const session = useSession();
  const manual = shallowRef<WholeManual>();
  const failure = ref('');
  const busy = ref(false);
  /** How much of the time it took the last time is over; undefined where that is not known. */
  const share = ref<number>();
  let usual: number | undefined;
  let stop: AbortController | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;

  async function set(): Promise<void> {
    stop?.abort();
    const mine = (stop = new AbortController());
    const started = performance.now();
    busy.value = true;
    const clock = setInterval(
      () =>
        (share.value =
          usual === undefined ? undefined : Math.min(0.98, (performance.now() - started) / usual)),
      200,
    );
    try {
      const base = `${session.base}/editions/${edition()}/proof/whole`;
      const proof = await ask(base, WholeProof, {
        method: 'POST',
        body: { item: item() },
        signal: mine.signal,
      });
      if (proof.sheets.length === 0)
        throw new Error(proof.problems.map(({ message }) => message).join(' '));
      const response = await fetch(`/api${base}.pdf`, { signal: mine.signal });
      if (!response.ok)
        throw new ApiError(response.status, 'failed', `The server answered ${response.status}.`);
      const file = await openPages(await response.arrayBuffer());
      if (mine.signal.aborted) return file.close();
      const before = manual.value;
      manual.value = { proof, file };
      before?.file.close();
      usual = performance.now() - started;
      failure.value = '';
    } catch (error) {
      if (!mine.signal.aborted) failure.value = messageOf(error);
    } finally {
      clearInterval(clock);
      if (stop === mine) {
        busy.value = false;
        share.value = undefined;
      }
    }
  }
  function cancel(): void {
    stop?.abort();
    busy.value = false;
  }
  watch([edition, item], () => void set(), { immediate: true });
  watch(changes, () => {
    clearTimeout(timer);
    timer = setTimeout(() => void set(), rest);
  });
  onBeforeUnmount(() => {
    clearTimeout(timer);
    cancel();
    manual.value?.file.close();
  });
  return { manual, failure, busy, share, set, cancel };
}
