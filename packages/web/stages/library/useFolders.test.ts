import { describe, expect, it } from 'vitest';
import { folderRows } from './useFolders.ts';

describe('folders of the library', () => {
  it('count what is in them and below, and come after the folder that they are in', () => {
    const rows = folderRows([
      { folder: 'topics/wiring', count: 3, types: ['task'] },
      { folder: '', count: 2, types: ['map'] },
      { folder: 'topics', count: 1, types: ['concept'] },
      { folder: 'templates', count: 4, types: ['task'] },
    ]);
    expect(rows.map(({ path, count, depth }) => [path, count, depth])).toEqual([
      ['', 10, 0],
      ['templates', 4, 1],
      ['topics', 4, 1],
      ['topics/wiring', 3, 2],
    ]);
    expect(rows.map(({ name }) => name)).toEqual(['All topics', 'templates', 'topics', 'wiring']);
  });
  it('are one row in an empty library', () => {
    expect(folderRows([])).toEqual([{ path: '', count: 0, depth: 0, name: 'All topics' }]);
  });
});
