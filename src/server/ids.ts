/** An id as the program makes them and as demo data has them: ASCII letters, digits, dashes and underscores. */
const ID = /^[\w-]{1,40}$/;

export function isId(text: string): boolean {
  return ID.test(text);
}
