// `npm run build`: the program as it is started and tested, made where there is none or a source is newer.
import { ensureBuild } from './setup/build.mjs';

ensureBuild();
