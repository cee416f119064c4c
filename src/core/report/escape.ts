/** A text as it stands in HTML and XML, in an attribute too. @example escaped('a < "b"') // "a &lt; &quot;b&quot;" */
export function escaped(text: string): string {
  return text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    .replaceAll("'", '&#39;');
}
