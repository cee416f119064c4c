/** Goes on to a path with the whole document fetched anew: nothing stays that was drawn for somebody else. */
export function goFresh(path: string): void {
  window.location.assign(path);
}
