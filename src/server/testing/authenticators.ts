import { createHash, generateKeyPairSync, randomBytes, sign } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import type TestAgent from 'supertest/lib/agent';
import type { NewCodesAnswer } from '../../contract';

/** What a phone shows, so many half minutes from now. */
export function codeNow({ secret }: Pick<NewCodesAnswer, 'secret'>, steps = 0): string {
  return new TOTP({ secret: Secret.fromBase32(secret) }).generate({
    timestamp: Date.now() + steps * 30_000,
  });
}

/** By this name the register is opened wherever a passkey is made or signs. */
export const NAMED = 'register.test';

interface Asked {
  readonly challenge: string;
}

/** A phone that keeps one passkey (WebAuthn, level 3, §6 and §7): what a browser would answer, made by hand. */
export class SoftAuthenticator {
  readonly #id = randomBytes(16);
  readonly #keys = generateKeyPairSync('ec', { namedCurve: 'P-256' });
  #counter = 0;

  get id(): string {
    return this.#id.toString('base64url');
  }

  /** Asks for a challenge, and makes a passkey of it. */
  async keeps(agent: TestAgent): Promise<object> {
    const { body } = await agent
      .post('/api/session/passkeys/challenge')
      .set('host', NAMED)
      .send({})
      .expect(201);
    return this.made(body as Asked);
  }

  /** Asks for a challenge to come in by, and signs it. */
  async signs(agent: TestAgent): Promise<object> {
    const { body } = await agent
      .post('/api/session/passkey/challenge')
      .set('host', NAMED)
      .send({})
      .expect(201);
    return this.signed(body as Asked);
  }

  made({ challenge }: Asked, host = NAMED): object {
    const { x, y } = this.#keys.publicKey.export({ format: 'jwk' });
    const key = Buffer.concat([
      // A map of five: a key on P-256 that signs by ES256.
      Buffer.from('a5010203262001215820', 'hex'),
      Buffer.from(x!, 'base64url'),
      Buffer.from('225820', 'hex'),
      Buffer.from(y!, 'base64url'),
    ]);
    const length = Buffer.from([0, this.#id.length]);
    const data = Buffer.concat([this.#data(host, 0x45), Buffer.alloc(16), length, this.#id, key]);
    const attestation = Buffer.concat([
      Buffer.from('a3', 'hex'),
      ...[word('fmt'), word('none'), word('attStmt'), Buffer.from('a0', 'hex'), word('authData')],
      Buffer.from([0x58, data.length]),
      data,
    ]);
    return this.#response({
      clientDataJSON: clientData('webauthn.create', challenge, host),
      attestationObject: attestation.toString('base64url'),
      transports: ['internal'],
    });
  }

  signed({ challenge }: Asked, host = NAMED): object {
    this.#counter += 1;
    const data = this.#data(host, 0x05);
    const clientDataJSON = clientData('webauthn.get', challenge, host);
    const hash = createHash('sha256').update(Buffer.from(clientDataJSON, 'base64url')).digest();
    return this.#response({
      clientDataJSON,
      authenticatorData: data.toString('base64url'),
      signature: sign('sha256', Buffer.concat([data, hash]), this.#keys.privateKey).toString('base64url'),
    });
  }

  #data(host: string, flags: number): Buffer {
    const counter = Buffer.alloc(4);
    counter.writeUInt32BE(this.#counter);
    return Buffer.concat([createHash('sha256').update(host).digest(), Buffer.from([flags]), counter]);
  }

  #response(response: object): object {
    return { id: this.id, rawId: this.id, type: 'public-key', clientExtensionResults: {}, response };
  }
}

function word(text: string): Buffer {
  return Buffer.concat([Buffer.from([0x60 + text.length]), Buffer.from(text)]);
}

function clientData(type: string, challenge: string, host: string): string {
  return Buffer.from(
    JSON.stringify({ type, challenge, origin: `http://${host}`, crossOrigin: false }),
  ).toString('base64url');
}
