import { createHmac, randomBytes, randomUUID, timingSafeEqual } from 'node:crypto';
import { linkSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import type { z } from 'zod';

/**
 * Signs small values that go out and come back, such as addresses of files and marks of known
 * browsers.
 */
export interface Signer {
  sign(value: object): string;
  /** The value, when it was signed here and is of this shape. */
  read<Value>(text: string, shape: z.ZodType<Value>): Value | undefined;
}

/**
 * The key of this installation: made once, the same for every process that shares the data folder.
 */
function keyIn(file: string): Buffer {
  const read = (): Buffer | undefined => {
    try {
      return readFileSync(file);
    } catch {
      return undefined;
    }
  };
  const known = read();
  if (known) return known;
  mkdirSync(dirname(file), { recursive: true });
  const draft = `${file}.${randomUUID()}`;
  writeFileSync(draft, randomBytes(32), { mode: 0o600 });
  try {
    // A link fails when another process was first, and it never shows half a key.
    linkSync(draft, file);
  } catch (error) {
    if (!(error instanceof Error && 'code' in error && error.code === 'EEXIST')) throw error;
  } finally {
    rmSync(draft, { force: true });
  }
  return read()!;
}

/** @param file where the key lies; it is read when it is first needed */
export function signer(file: string): Signer {
  let key: Buffer | undefined;
  // HMAC with SHA-256 (RFC 2104).
  const macOf = (text: string): Buffer =>
    createHmac('sha256', (key ??= keyIn(file)))
      .update(text)
      .digest();
  return {
    sign(value) {
      const text = Buffer.from(JSON.stringify(value)).toString('base64url');
      return `${text}.${macOf(text).toString('base64url')}`;
    },
    read(signed, shape) {
      const [text = '', mac = ''] = signed.split('.');
      const given = Buffer.from(mac, 'base64url');
      const right = macOf(text);
      if (given.length !== right.length || !timingSafeEqual(given, right)) return undefined;
      return shape.safeParse(JSON.parse(Buffer.from(text, 'base64url').toString('utf8'))).data;
    },
  };
}
