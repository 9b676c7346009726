/** MariaDB's JSON is text with a check; the driver hands it out as it lies. */
export function parsedDocument(document: unknown): unknown {
  return typeof document === 'string' ? (JSON.parse(document) as unknown) : document;
}
