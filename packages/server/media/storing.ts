import { open, stat } from 'node:fs/promises';
import type { BlobStore } from '../data/blobs.ts';
import { largestDrawing, type ImageSanitising, type SanitisedImage } from './image.ts';
import { sniffedType } from './types.ts';

/** An image as its row says it; its bytes are stored. */
export type StoredImage = Omit<SanitisedImage, 'bytes'> & {
  /** SHA-256 under which the bytes are stored. */
  readonly hash: string;
  /** In bytes. */
  readonly size: number;
};
export type ImageStoring = (
  path: string,
  claimed: string,
) => Promise<StoredImage | { readonly refusal: string }>;

/** The header of a picture, with what a camera puts before its size, is in its first megabyte. */
const headerLength = 1024 * 1024;

async function firstBytes(path: string, length: number): Promise<Buffer> {
  const file = await open(path);
  try {
    const bytes = Buffer.alloc(length);
    const { bytesRead } = await file.read(bytes, 0, length, 0);
    return bytes.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/**
 * Stores an uploaded file as what it really is. Videos and pictures stay on the disk; drawings are
 * read, cleaned and written anew.
 * @returns the image, or one sentence that says why it cannot be stored
 */
export function imageStoring(blobs: BlobStore, sanitise: ImageSanitising): ImageStoring {
  return async (path, claimed) => {
    const head = await firstBytes(path, headerLength);
    const isDrawing = sniffedType(head) === undefined;
    // One byte more than the largest drawing is enough to see that it is too large.
    const read = isDrawing ? await firstBytes(path, largestDrawing + 1) : head;
    const sanitised = await sanitise(read, claimed);
    if ('refusal' in sanitised) return sanitised;
    const { bytes, ...image } = sanitised;
    if (isDrawing) return { ...image, hash: await blobs.put(bytes), size: bytes.byteLength };
    const { size } = await stat(path);
    return { ...image, hash: await blobs.putFile(path), size };
  };
}
