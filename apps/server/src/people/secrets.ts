import { createCipheriv, createDecipheriv, createHash, hkdfSync, randomBytes } from 'node:crypto';

/** What a link or a cookie carries, and how it is kept: who reads what is kept can't make the one of the other. */
export const newToken = (): string => randomBytes(32).toString('base64url');
export const keyOf = (token: string): string => createHash('sha256').update(token).digest('base64url');

/** Whose a sealed secret is. */
export const ofPerson = (person: number): string => `person ${person}`;

const IV = 12;
const TAG = 16;

/** Enciphers what has to be read again, such as the secret of a second factor, by a key that is not in the database. */
export class Cipher {
  private readonly key: Buffer;

  /** @param secret of the server, which stays the same */
  constructor(secret: string) {
    this.key = Buffer.from(hkdfSync('sha256', secret, 'green sprig', 'second factors', 32));
  }

  /** @param of what it belongs to: it can't be read as somebody else's */
  seal(text: string, of: string): Buffer {
    const iv = randomBytes(IV);
    const cipher = createCipheriv('aes-256-gcm', this.key, iv).setAAD(Buffer.from(of));
    const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
    return Buffer.concat([iv, cipher.getAuthTag(), body]);
  }

  /** Throws where it was sealed by another key, for somebody else, or changed since. */
  open(sealed: Buffer, of: string): string {
    const decipher = createDecipheriv('aes-256-gcm', this.key, sealed.subarray(0, IV))
      .setAAD(Buffer.from(of))
      .setAuthTag(sealed.subarray(IV, IV + TAG));
    return Buffer.concat([decipher.update(sealed.subarray(IV + TAG)), decipher.final()]).toString('utf8');
  }
}
