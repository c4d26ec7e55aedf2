import { openRegister } from '../../src/server/app';
import { makeCheckpoint } from '../../src/server/evidence/checkpoints';
import { verifyRegister } from '../../src/server/evidence';
import { openSigner } from '../../src/server/platform/signing';
const db = await openRegister(process.argv[2]!);
const signer = openSigner('/tmp/test.key');
for (let i = 0; i < 3; i++) {
  const b = performance.now();
  const c = await makeCheckpoint(db.entities(), signer, Date.now());
  console.log(c?.number, performance.now() - b);
}
const b = performance.now();
const v = await verifyRegister(db.entities(), { checkpoint: null, key: signer.publicKey }, Date.now());
console.log(v, performance.now() - b);
await db.close();
