/** Headers of every answer, by their names. */
export const PLAIN_HEADERS: Readonly<Record<string, string>>;
