// `npm run reed`: the command line.
import { pathToFileURL } from 'node:url';
import { builtCommand, canBeKept } from './setup/builtCommand.mjs';
import { inProject, root } from './setup/project.mjs';

// Where nothing can be kept it is read from its sources, which takes longer.
const isKept = canBeKept(root);
if (!isKept) await import('tsx');
await import(pathToFileURL(isKept ? await builtCommand(root) : inProject('src', 'cli', 'reed.ts')).href);
