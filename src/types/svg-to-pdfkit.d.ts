declare module 'svg-to-pdfkit' {
  interface Options {
    readonly width?: number;
    readonly height?: number;
    readonly preserveAspectRatio?: string;
    readonly assumePt?: boolean;
    readonly useCSS?: boolean;
    readonly fontCallback?: (family: string, bold: boolean, italic: boolean) => string;
    readonly warningCallback?: (warning: string) => void;
  }
  export default function SVGtoPDF(
    document: PDFKit.PDFDocument,
    svg: string,
    x: number,
    y: number,
    options?: Options,
  ): void;
}
