import { startCluster } from '../scripts/postgres.mjs';
import { layTemplate } from './registers';

export default async function globalSetup(): Promise<void> {
  process.env.MALLE_TEST_CLUSTER ??= await startCluster(() => undefined);
  await layTemplate();
}
