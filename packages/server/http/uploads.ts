import { Refused } from './guard.ts';

/** Bytes of one uploaded file. */
export const largestFile = 200 * 1024 * 1024;

interface Upload {
  readonly filename: string;
  readonly mimetype: string;
  toBuffer(): Promise<Buffer>;
}

/** The one file that came with a request, in memory. @throws Refused when there is none, or it is too large */
export async function uploaded(
  file: Upload | undefined,
): Promise<{ name: string; bytes: Buffer; claimed: string }> {
  if (!file) throw new Refused(400, 'no-file', 'The request contains no file.');
  const bytes = await file.toBuffer().catch(() => {
    throw new Refused(
      413,
      'file-too-large',
      `“${file.filename}” is larger than ${largestFile / 1024 / 1024} MB.`,
    );
  });
  return {
    name: file.filename.split(/[\\/]/u).at(-1) ?? 'file',
    bytes,
    claimed: file.mimetype,
  };
}
