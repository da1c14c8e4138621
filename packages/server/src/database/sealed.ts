// Values that the database keeps for a while and that nobody who reads it may use: a link with its secret, say.
import { createCipheriv, createDecipheriv, hkdfSync, randomBytes } from 'node:crypto';

const IV_BYTES = 12;
const TAG_BYTES = 16;

export interface Seal {
  readonly close: (value: unknown) => string;
  readonly open: (sealed: string) => unknown;
}

/** Encrypts and authenticates by a key that the installation's secret gives. Source: NIST SP 800-38D (AES-256-GCM), RFC 5869. */
export function createSeal(secret: string): Seal {
  const key = Buffer.from(hkdfSync('sha256', secret, '', 'meridiem done calls', 32));
  return {
    close(value) {
      const iv = randomBytes(IV_BYTES);
      const cipher = createCipheriv('aes-256-gcm', key, iv);
      const text = Buffer.concat([cipher.update(JSON.stringify({ value })), cipher.final()]);
      return Buffer.concat([iv, cipher.getAuthTag(), text]).toString('base64');
    },
    open(sealed) {
      const bytes = Buffer.from(sealed, 'base64');
      const decipher = createDecipheriv('aes-256-gcm', key, bytes.subarray(0, IV_BYTES));
      decipher.setAuthTag(bytes.subarray(IV_BYTES, IV_BYTES + TAG_BYTES));
      const text = Buffer.concat([decipher.update(bytes.subarray(IV_BYTES + TAG_BYTES)), decipher.final()]);
      return (JSON.parse(text.toString('utf8')) as { value: unknown }).value;
    },
  };
}
