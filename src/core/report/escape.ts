/** A text as it stands in HTML and XML, in an attribute too. @example escaped('a < "b"') // "a &lt; &quot;b&quot;" */
export function escaped(text: string): string {
  return text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    .replaceAll("'", '&#39;');
}

/**
 * A text in which nothing is read as Markdown (CommonMark, backslash escapes).
 * @example inMarkdown("a*b|c") // "a\\*b\\|c"
 */
export function inMarkdown(text: string): string {
  return text.replace(/([\\`*_{}[\]<>#|~])/g, '\\$1').replace(/\s*\n\s*/g, ' ');
}
