/** Text as it stands in an XML document. */
export function escapeXml(text: string): string {
  return (
    text
      // Characters that XML 1.0 cannot hold at all would make the file unreadable.
      .replace(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g, '')
      .replace(/[&<>"]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign] ?? sign)
  );
}
