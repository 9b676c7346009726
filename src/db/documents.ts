/** A JSON column as text: MariaDB's JSON is text with a check, and the driver may have read it already. */
export function documentText(document: unknown): string {
  return typeof document === 'string' ? document : JSON.stringify(document);
}

/** A JSON column as what it says; not yet checked. */
export function parsedDocument(document: unknown): unknown {
  return typeof document === 'string' ? (JSON.parse(document) as unknown) : document;
}
