import { SourceSummary } from '@ukiyo/contracts';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { z } from 'zod';
import { ask } from './api.ts';
import { loadOnce, renew } from './latest.ts';
import { useSession } from './session.ts';

/** A file of a linked source, with its topic here. */
interface OutsideFile {
  readonly folder: string;
  readonly path: string;
}

/** The linked sources of the project, and which topics come from them. */
export const useSources = defineStore('sources', () => {
  const session = useSession();
  const list = shallowRef<readonly SourceSummary[]>([]);
  const load = (): Promise<void> =>
    renew(list, () => ask(`${session.base}/sources`, z.array(SourceSummary)));
  /** Only writers may see folders of the server. */
  const ensure = loadOnce(async () => {
    if (session.may('write')) await load();
  });
  const keep = ({ folder, isLinked, isThere, readAt, files }: SourceSummary): void =>
    void (list.value = list.value.map((one) =>
      one.folder === folder ? { folder, isLinked, isThere, readAt, files } : one,
    ));
  const byItem = computed(
    () =>
      new Map(
        list.value.flatMap(({ folder, files }) =>
          files.map(({ path, item }): [string, OutsideFile] => [item, { folder, path }]),
        ),
      ),
  );
  /** The file that a topic comes from. */
  const fileOf = (item: string): OutsideFile | undefined => byItem.value.get(item);
  return { list, load, ensure, keep, fileOf };
});
