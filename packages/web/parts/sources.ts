import { SourceSummary } from '@ukiyo/contracts';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { z } from 'zod';
import { ask } from './api.ts';
import { renew } from './latest.ts';
import { useSession } from './session.ts';

/** A file outside that is a topic here. */
interface OutsideFile {
  readonly folder: string;
  readonly path: string;
}

/** The linked sources of the project, and which topics come from them. */
export const useSources = defineStore('sources', () => {
  const session = useSession();
  const list = shallowRef<readonly SourceSummary[]>([]);
  let loading: Promise<void> | undefined;
  const load = (): Promise<void> =>
    renew(list, () => ask(`${session.base}/sources`, z.array(SourceSummary)));
  /** Only who writes is told of folders of the server. */
  const ensure = (): Promise<void> =>
    (loading ??= session.may('write') ? load() : Promise.resolve());
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
