/** The script of the bookmark: opens the form with the page one is on, its title, and its title as the old text. */
export function bookmarkScript(form: string): string {
  const fill = (name: string, value: string) => `'${name}='+encodeURIComponent(${value})`;
  return `javascript:void open(${JSON.stringify(form)}+'?'+[${[
    fill('page', 'location.href'),
    fill('title', 'document.title.slice(0,200)'),
    fill('old', 'document.title'),
  ].join(',')}].join('&'))`;
}
