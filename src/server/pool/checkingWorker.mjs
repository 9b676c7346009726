// Worker threads do not inherit the loader that reads TypeScript; it is put in here.
import { register } from 'tsx/esm/api';

register();
const { default: runJob } = await import('./checkingWorker.ts');

export default runJob;
