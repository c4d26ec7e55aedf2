import { writeFileSync } from 'node:fs';
import { PAPER } from '../platform/paper';
import { drawn } from '../platform/pdf';
import { certificateFiles, makeCertificate } from '../platform/tls';
import { run } from './run';

const USAGE =
  'Usage: certificate NAME …   (what the server is called in its network: malle.local 192.168.1.20)\n';
const FOLDER = process.env.MALLE_TLS_FOLDER ?? '.data/tls';

/** Makes what the HTTPS mode needs, and says what to set and what to scan. */
async function main(names: readonly string[]): Promise<number> {
  const [first] = names;
  if (first === undefined || names.some((name) => !/^[\w.:-]+$/.test(name))) {
    process.stderr.write(USAGE);
    return 2;
  }
  await makeCertificate(FOLDER, [...names, 'localhost', '127.0.0.1']);
  const { authority, cert, key, sheet } = certificateFiles(FOLDER);
  const address = `https://${first}:${process.env.MALLE_PORT ?? '4180'}`;
  writeFileSync(
    sheet,
    await drawn({
      ...PAPER,
      content: [
        { text: 'Malle on your phone', fontSize: 22, bold: true, margin: [0, 0, 0, 12] },
        { text: `1. Scan this, and open the file. Install it as an authority in the phone’s settings.` },
        { qr: `${address}/authority.crt`, fit: 220, margin: [0, 12, 0, 12] },
        { text: `2. Open ${address}. From then on Malle opens without a network, too.` },
      ],
    }),
  );
  process.stdout.write(
    [
      `A certificate for ${names.join(', ')} lies in ${FOLDER}. Start Malle with`,
      '',
      `    MALLE_HOST=0.0.0.0 MALLE_CERTIFICATE=${cert} MALLE_KEY=${key} MALLE_AUTHORITY=${authority} npm start`,
      '',
      `Each phone trusts it once: print ${sheet}, scan its code, open the file, and install it as an authority in the phone’s settings.`,
      `Then open ${address}. Keep ${FOLDER} to yourself: whoever has authority.key can stand in for any site.`,
      '',
    ].join('\n'),
  );
  return 0;
}

run(main);
