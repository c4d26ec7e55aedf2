// Before the integration tests: the cluster they make their databases in.
import { startCluster } from './postgres.mjs';

export default async function setUp() {
  process.env.MALLE_TEST_CLUSTER ??= await startCluster(() => undefined);
}
