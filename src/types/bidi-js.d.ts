declare module 'bidi-js' {
  /** Embedding levels of a text by the Unicode bidirectional algorithm, one for each UTF-16 code unit. */
  interface EmbeddingLevels {
    readonly levels: Uint8Array;
    readonly paragraphs: readonly { readonly start: number; readonly end: number; readonly level: number }[];
  }
  interface Bidi {
    getEmbeddingLevels(text: string, direction?: 'ltr' | 'rtl' | 'auto'): EmbeddingLevels;
    getMirroredCharacter(character: string): string | null;
  }
  export default function bidiFactory(): Bidi;
}
