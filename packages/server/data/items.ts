import type { Agreed } from '@ukiyo/core/library';
import type { Transaction } from 'sequelize';
import type { Database } from './database.ts';
import { itemReading, type ItemReading } from './itemReading.ts';
import { itemWriting, type ItemWriting } from './itemWriting.ts';
import { itemListing, type ItemListing } from './listing.ts';
import type { PrepareText } from './preparing.ts';
import { revisionStore, type RevisionStore } from './revisions.ts';

/** Topics and maps in the database. */
export interface ItemStore extends ItemListing, ItemReading, ItemWriting, RevisionStore {}

/**
 * @param agreedIn what texts are checked against
 * @param prepare works out what is stored with a text
 */
export function itemStore(
  database: Database,
  agreedIn: (project: string, transaction?: Transaction) => Promise<Agreed>,
  prepare: PrepareText,
): ItemStore {
  const reading = itemReading(database);
  return {
    ...itemListing(database),
    ...reading,
    ...itemWriting(database, { reading, agreedIn, prepare }),
    ...revisionStore(database),
  };
}
