import type {
  PublicKeyCredentialCreationOptionsJSON,
  PublicKeyCredentialRequestOptionsJSON,
} from '@simplewebauthn/browser';
import { ask, FailedRequest } from '../app/api';

/** Passkeys belong to a name; at an address of figures no browser makes one. */
const FIGURES = /^[\d.]+$|^\[/;

/** Whether this browser, at this address, can have passkeys at all. */
export function mayHavePasskeys(): boolean {
  return window.isSecureContext && 'PublicKeyCredential' in window && !FIGURES.test(window.location.hostname);
}

/** Signs whoever holds this device in. @throws a {@link FailedRequest}, or what the browser says where no passkey was given */
export async function signByPasskey(): Promise<void> {
  const { startAuthentication } = await import('@simplewebauthn/browser');
  const challenge = await ask('POST /session/passkey/challenge');
  const optionsJSON = challenge as unknown as PublicKeyCredentialRequestOptionsJSON;
  const passkey = await startAuthentication({ optionsJSON });
  await ask('POST /session/passkey', {
    body: { passkey: { ...passkey, response: { ...passkey.response } } },
  });
}

/** Makes a passkey on this device, or on one that the browser reaches, and has the register know it by this name. */
export async function makePasskey(name: string): Promise<void> {
  const { startRegistration } = await import('@simplewebauthn/browser');
  const challenge = await ask('POST /session/passkeys/challenge');
  const optionsJSON = challenge as unknown as PublicKeyCredentialCreationOptionsJSON;
  const passkey = await startRegistration({ optionsJSON });
  await ask('POST /session/passkeys', {
    body: { name, passkey: { ...passkey, response: { ...passkey.response } } },
  });
}

/** What went wrong, in a sentence. The browser does not tell a person who left the question from a device that has no key. */
export function whyNoPasskey(error: unknown): string {
  if (error instanceof FailedRequest) return error.says;
  if (error instanceof Error && error.name === 'InvalidStateError')
    return 'This device has a passkey for you already.';
  return 'The browser gave no passkey. Nothing is changed.';
}
