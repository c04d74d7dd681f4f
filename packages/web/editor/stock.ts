/**
 * A stand-in for a stock image service: a few drawings that ship with the application, found and
 * taken as from such a service. There is no outside service behind it.
 */
export interface StockImage {
  readonly name: string;
  readonly title: string;
  /** Where a picture of it is shown from. */
  readonly address: string;
}

const titles: Readonly<Record<string, string>> = {
  anchor: 'Anchor',
  buoy: 'Buoy',
  clock: 'Clock',
  gloves: 'Gloves',
  lightning: 'Lightning',
  screwdriver: 'Screwdriver',
  spanner: 'Spanner',
  waves: 'Waves',
};

export const stockImages: readonly StockImage[] = Object.entries(titles).map(([name, title]) => ({
  name,
  title,
  address: `/stock/${name}.svg`,
}));

/** Fetches a drawing as a file that can join the library. */
export async function fetchStockImage({ name, address }: StockImage): Promise<File> {
  const answer = await fetch(address).catch(() => undefined);
  if (!answer?.ok) throw new Error('The stock collection does not answer.');
  return new File([await answer.blob()], `${name}.svg`, { type: 'image/svg+xml' });
}
