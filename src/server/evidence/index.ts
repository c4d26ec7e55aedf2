export { newestCheckpoint } from './checkpoints';
export { keepCheckpoints } from './keeping';
export { checkpointOnPaper } from './onPaper';
export { evidenceRoutes, verificationOf, VERIFY } from './routes';
export { verifyRegister } from './verify';
