import { createCipheriv, createDecipheriv, createHash, randomBytes } from 'node:crypto';

/** Thrown where a sealed text cannot be opened with this machine's key. */
export class WrongKey extends Error {
  override name = 'WrongKey';
  constructor() {
    super('The password was kept with the key of another machine. Type it again in the post room.');
  }
}

/**
 * Keeps passwords and keys so that the database alone opens none: AES-256-GCM (NIST SP 800-38D) with a key that lies elsewhere. What is
 * sealed for one thing opens for no other.
 */
export class Secrets {
  private readonly key: Buffer;

  /** @param key any text of enough chance; each server of a school needs the same. */
  constructor(key: string) {
    this.key = createHash('sha256').update(`scriptum secrets ${key}`).digest();
  }

  /** @param of what it belongs to, such as an account’s identity and which of its secrets it is. */
  seal(text: string, of: string): string {
    const nonce = randomBytes(12);
    const cipher = createCipheriv('aes-256-gcm', this.key, nonce).setAAD(Buffer.from(of));
    const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
    return ['1', nonce, cipher.getAuthTag(), sealed]
      .map((part) => (typeof part === 'string' ? part : part.toString('base64url')))
      .join('.');
  }

  /** @throws WrongKey */
  open(sealed: string, of: string): string {
    const [version, ...parts] = sealed.split('.');
    const [nonce, tag, bytes] = parts.map((part) => Buffer.from(part, 'base64url'));
    if (version !== '1' || !nonce || tag?.length !== 16 || !bytes) throw new WrongKey();
    try {
      const cipher = createDecipheriv('aes-256-gcm', this.key, nonce).setAAD(Buffer.from(of)).setAuthTag(tag);
      return Buffer.concat([cipher.update(bytes), cipher.final()]).toString('utf8');
    } catch {
      throw new WrongKey();
    }
  }
}
