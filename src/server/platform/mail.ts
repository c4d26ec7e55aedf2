import { isLoopback } from './config';
import type { Config } from './config';

export interface Letter {
  readonly subject: string;
  readonly text: string;
  readonly attachment: { readonly name: string; readonly text: string };
}

/** The way out for letters of the register itself. */
export interface Mail {
  readonly to: readonly string[];
  /**
   * Hands one letter for all addresses to the mail server.
   * @returns the addresses that the mail server refused while it took others
   * @throws NotSent when nobody gets the letter
   */
  send(letter: Letter): Promise<readonly string[]>;
}

/** Why a letter went to nobody, in words for whoever runs the register. */
export class NotSent extends Error {}

/** A mail server that says nothing is given up after these milliseconds. */
const PATIENCE_MS = 20_000;

const WHY: Readonly<Record<string, string>> = {
  EAUTH: 'The mail server does not take the name or the password in MALLE_MAIL.',
  ECONNECTION: 'The mail server cannot be reached.',
  EDNS: 'The mail server cannot be reached.',
  ESOCKET: 'The mail server cannot be reached.',
  ETIMEDOUT: 'The mail server does not answer.',
  ETLS: 'The mail server offers no encryption, and letters leave this machine encrypted or not at all.',
  EENVELOPE: 'The mail server takes none of the addresses in MALLE_MAIL_FROM and MALLE_MAIL_TO.',
};

/** @param settings the mail server as smtp:// or smtps:// address; beyond this machine the connection is encrypted or none is made */
export function openMail({ server, from, to }: NonNullable<Config['mail']>): Mail {
  const { protocol, hostname } = new URL(server);
  const options = {
    url: server,
    requireTLS: protocol === 'smtp:' && !isLoopback(hostname),
    connectionTimeout: PATIENCE_MS,
    greetingTimeout: PATIENCE_MS,
    socketTimeout: PATIENCE_MS,
    disableFileAccess: true,
    disableUrlAccess: true,
  };
  return {
    to,
    send: async ({ subject, text, attachment }) => {
      try {
        // Loaded with the first letter of the day; most registers send none.
        const { createTransport } = await import('nodemailer');
        const { rejected } = await createTransport(options).sendMail({
          from,
          to: [...to],
          subject,
          text,
          attachments: [{ filename: attachment.name, content: attachment.text, contentType: 'text/plain' }],
        });
        return rejected;
      } catch (error) {
        const { code = '' } = error as { code?: string };
        throw new NotSent(WHY[code] ?? 'The mail server did not take the letter.', { cause: error });
      }
    },
  };
}
