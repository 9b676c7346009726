/** The file that runs a project's command as its sources are now. */
export function builtCommand(root: string): Promise<string>;
/** Makes the folder in which it is kept, unless nothing can be written there. */
export function canBeKept(root: string): boolean;
