/** The parts of the engraving library that are used here; the package brings no types of its own. */
declare module 'verovio/wasm' {
  export default function createVerovioModule(): Promise<unknown>;
}
declare module 'verovio/esm' {
  export const LOG_ERROR: number;
  export function enableLog(level: number, module: unknown): void;
  export function enableLogToBuffer(value: boolean, module: unknown): void;
  export class VerovioToolkit {
    constructor(module: unknown);
    setOptions(options: Readonly<Record<string, string | number | boolean>>): void;
    loadData(data: string): boolean;
    getPageCount(): number;
    renderToSVG(page: number): string;
    getLog(): string;
  }
}
