import { AssetPage, type ListedAsset } from '@ukiyo/contracts';
import { ask } from './api.ts';
import { useAssets } from './assets.ts';
import { assetListAddress, listParameters, type AssetListQuery } from './listAddress.ts';
import { usePagedList } from './pagedList.ts';
import { useSession } from './session.ts';

/**
 * The images that match a query, page by page.
 * @param query undefined for no list at all
 */
export function useAssetList(query: () => AssetListQuery | undefined) {
  const session = useSession();
  const assets = useAssets();
  return usePagedList<ListedAsset>({
    asked() {
      const now = query();
      return now && listParameters(now).toString();
    },
    async page(offset) {
      const found = await ask(session.base + assetListAddress(query() ?? {}, offset), AssetPage);
      return { total: found.total, rows: found.assets };
    },
    take: assets.take,
    find: assets.find,
    changes: () => assets.listings,
  });
}
